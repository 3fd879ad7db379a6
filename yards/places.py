"""What of people and yards stands in a person's menu."""

from web.places import Errand

ERRANDS = (
    Errand(title="People", order=10, address="people", owners_only=True),
    Errand(title="Your yards", order=30, address="own_yards"),
    Errand(title="Change password", order=40, address="own_password"),
)
