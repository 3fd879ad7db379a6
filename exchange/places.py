"""The yard as a file, in its owner's menu."""

from web.places import Errand

ERRANDS = (Errand(title="The yard as a file", order=20, address="yard_file", owners_only=True),)
