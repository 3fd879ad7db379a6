"""Forms of people: signing up, joining, inviting."""

from __future__ import annotations

from functools import cache
from typing import Any
from zoneinfo import available_timezones

from django import forms
from django.conf import settings
from django.contrib.auth.forms import BaseUserCreationForm, PasswordChangeForm, SetPasswordForm
from django.core.exceptions import ValidationError

from yards.models import Invitation, Role, User, Yard


@cache
def time_zones() -> frozenset[str]:
    """Names of all time zones."""
    return frozenset(available_timezones())


class YardForm(forms.ModelForm):
    """What a yard is called, its clock, and whom its drivers call."""

    class Meta:
        model = Yard
        fields = ("name", "time_zone", "phone")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["name"].label = "Its name"
        names = sorted(name for name in time_zones() if "/" in name or name == "UTC")
        self.fields["time_zone"] = forms.ChoiceField(
            label="Its clock",
            required=False,
            choices=[
                ("", f"as the server ({settings.TIME_ZONE})"),
                *((name, name.replace("_", " ")) for name in names),
            ],
            help_text="Times are written in it.",
        )
        phone = self.fields["phone"]
        phone.label, phone.help_text = "Its telephone", "Stands on every load card."
        phone.widget.input_type = "tel"
        look(self)

    def clean_name(self) -> str:
        """A name, not blanks."""
        return yard_name(self.cleaned_data["name"])


def yard_name(typed: Any) -> str:
    """A yard's name as it was typed.

    Raises:
        ValidationError: it is blank.
    """
    name = str(typed).strip()
    if not name:
        raise ValidationError("Give the yard a name.")
    return name


def look(form: forms.Form | forms.ModelForm[Any]) -> None:
    """The look of every box."""
    for field in form.fields.values():
        kind = "form-select" if isinstance(field.widget, forms.Select) else "form-control"
        field.widget.attrs["class"] = kind


class PersonForm(BaseUserCreationForm):
    """Who signs in: a name, a password twice; how others see the person."""

    shown_as = forms.CharField(
        label="Your name, as others see it",
        required=False,
        max_length=120,
        help_text="May stay empty.",
    )

    class Meta:
        model = User
        fields = ("username",)

    field_order = ("yard_name", "username", "shown_as", "password1", "password2")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        name = self.fields["username"]
        name.label, name.help_text = "Name to sign in with", "Letters and numbers."
        name.error_messages["unique"] = "Somebody signs in with that name already. Choose another."
        name.widget.attrs.pop("autofocus", None)
        next(iter(self.fields.values())).widget.attrs["autofocus"] = True
        self.fields["password1"].label = "Password"
        self.fields["password1"].help_text = "At least 10 characters."
        self.fields["password2"].label = "Password again"
        self.fields["password2"].help_text = ""
        look(self)

    def save(self, commit: bool = True) -> User:
        """The person, not stored: the yard's service stores both together."""
        user: User = super().save(commit=False)
        first, _, last = self.cleaned_data["shown_as"].strip().partition(" ")
        user.first_name, user.last_name = first[:150], last.strip()[:150]
        return user


class SignUpForm(PersonForm):
    """A new yard and its first person."""

    yard_name = forms.CharField(
        label="Your yard", max_length=120, help_text="The business or farm: “Home Farm”."
    )
    time_zone = forms.CharField(required=False, widget=forms.HiddenInput)

    def clean_yard_name(self) -> str:
        """A name, not blanks."""
        return yard_name(self.cleaned_data["yard_name"])

    def clean_time_zone(self) -> str:
        """The browser's, where it says one that there is."""
        zone = str(self.cleaned_data["time_zone"])
        return zone if zone in time_zones() else ""


class InvitationForm(forms.ModelForm):
    """Whom to invite, as what."""

    class Meta:
        model = Invitation
        fields = ("for_whom", "role")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["for_whom"].label = "For whom"
        self.fields["role"].label = "As"
        self.fields["role"].choices = Role.choices  # type: ignore[attr-defined]
        self.initial.setdefault("role", Role.DRIVER)
        look(self)


class OwnPasswordForm(PasswordChangeForm):
    """Changing one's own password."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        look(self)
        self.fields["new_password1"].help_text = "At least 10 characters."


class NewPasswordForm(SetPasswordForm):
    """Choosing a new password by an owner's link."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        look(self)
        self.fields["new_password1"].help_text = "At least 10 characters."
