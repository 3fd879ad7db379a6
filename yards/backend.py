"""Loading the signed-in person together with the yard."""

from __future__ import annotations

from django.contrib.auth.backends import ModelBackend

from yards.models import Membership, User


class YardBackend(ModelBackend):
    """Django's own sign-in; the person comes with the yard in one query."""

    def get_user(self, user_id: int) -> User | None:
        """The person, if still active, with ``current_yard`` set where there is one."""
        membership = (
            Membership.objects.select_related("user", "yard")
            .filter(user_id=user_id)
            .order_by("yard_id")
            .first()
        )
        if membership is None:
            return super().get_user(user_id)
        user = membership.user
        user.current_yard = membership.yard
        return user if self.user_can_authenticate(user) else None
