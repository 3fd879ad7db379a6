"""The boxes of a day's plan, of where machines have to be, and of who drives what."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, time
from typing import Any, Final

from django import forms
from django.core.exceptions import ValidationError
from django.utils import timezone

from book.forms import InUnits
from book.models import Place
from day.asking import (
    MOST_TRANSFERS,
    OFF_MINUTES,
    ON_MINUTES,
    SPEED_M_MIN,
    Asked,
    Driving,
    Wanted,
)
from day.forms import BOUNDS, MinutesField
from day.models import USUAL_END, USUAL_START, DriverTerms, Stay
from day.stays import Due, overlapping
from hauls.loads import LoadChoices, load_choices, nearest_choice, read_load
from hauls.pairs import pairs_of
from hauls.rides import outfit_key
from measures import ReadingError, UnitSystem
from measures.reading import read_speed
from measures.writing import write_in
from yards.models import User, Yard

SPARE_ROWS: Final = 3
"""Empty rows below those that are filled in."""

HOUR: Final = {"invalid": "Write the hour like 9:30 or 14:00."}
DAY_WRONG: Final = {"invalid": "Write the day like 2026-05-31."}


def _hour(*, required: bool = False, label: str = "") -> forms.TimeField:
    widget = forms.TimeInput(attrs={"type": "time", "class": "form-control"}, format="%H:%M")
    return forms.TimeField(required=required, label=label, widget=widget, error_messages=HOUR)


def _date(*, required: bool = True, label: str = "") -> forms.DateField:
    widget = forms.DateInput(attrs={"type": "date", "class": "form-control"}, format="%Y-%m-%d")
    return forms.DateField(
        required=required, label=label, widget=widget, error_messages=DAY_WRONG, validators=BOUNDS
    )


def minutes_of(at: time | None) -> int | None:
    """Minutes since midnight."""
    return None if at is None else at.hour * 60 + at.minute


class WantedForm(forms.Form):
    """One machine that has to go somewhere."""

    load = forms.ChoiceField(label="What", required=False)
    origin = forms.ChoiceField(label="From", required=False)
    goal = forms.ChoiceField(label="To", required=False)
    earliest = _hour(label="Not before")
    due = _hour(label="There by")
    outfit = forms.ChoiceField(label="With", required=False)

    def __init__(self, *args: Any, choices: dict[str, Any], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name, found in choices.items():
            box: Any = self.fields[name]
            box.choices = found
            box.widget.attrs["class"] = "form-select"
            box.error_messages["invalid_choice"] = "Choose one of the list."

    def clean(self) -> dict[str, Any]:
        """A row is whole or empty."""
        said: dict[str, Any] = super().clean() or self.cleaned_data
        if not said.get("load"):
            if said.get("goal") and "load" not in self.errors:
                self.add_error("load", "Choose what has to go there, or leave the row empty.")
            return said
        for name, words in (("origin", "Say where it is."), ("goal", "Say where it goes.")):
            if not said.get(name) and name not in self.errors:
                self.add_error(name, words)
        if said.get("origin") and said.get("origin") == said.get("goal"):
            self.add_error("goal", "It is there already. Choose another place.")
        earliest, due = said.get("earliest"), said.get("due")
        if earliest and due and due <= earliest:
            self.add_error("due", "That is before it is ready. Change one of the hours.")
        return said

    @property
    def wanted(self) -> Wanted | None:
        """What was said; ``None`` of an empty row."""
        said = self.cleaned_data
        if not said.get("load"):
            return None
        return Wanted(
            load=said["load"],
            origin=int(said["origin"]),
            goal=int(said["goal"]),
            earliest=minutes_of(said["earliest"]),
            due=minutes_of(said["due"]),
            outfit=said["outfit"],
        )


class DrivingForm(forms.Form):
    """Whether somebody drives that day, and when."""

    drives = forms.BooleanField(required=False)
    starts = _hour(label="from")
    ends = _hour(label="until")

    def __init__(self, *args: Any, user: User, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.user = user
        self.fields["drives"].label = user.shown_name
        self.fields["drives"].widget.attrs["class"] = "form-check-input"

    def clean(self) -> dict[str, Any]:
        """Whoever drives does so from an hour to a later one."""
        said: dict[str, Any] = super().clean() or self.cleaned_data
        starts, ends = said.get("starts"), said.get("ends")
        if said.get("drives") and not self.errors:
            if starts is None or ends is None:
                self.add_error("starts", "Say from when to when.")
            elif ends <= starts:
                self.add_error("ends", "That is before the start. Change one of the hours.")
        return said


class PlanForm(forms.Form):
    """The day, how fast it goes, how long loading takes."""

    day = _date(label="Day")
    speed = forms.CharField(label="On the road", max_length=20, required=False)
    on_minutes = MinutesField(label="Loading and tying one down", required=False, max_length=20)
    off_minutes = MinutesField(label="Taking one off", required=False, max_length=20)
    unknown_too = forms.BooleanField(
        label="Also what the planner cannot judge yet",
        required=False,
        help_text="Outfits of which a rating or a mass is not known. Without this they are left "
        "out: what is not known does not count as right.",
    )

    def __init__(self, data: Any = None, *, yard: Yard, units: UnitSystem, day: date) -> None:
        self.yard, self.units = yard, units
        unit = units.bare_unit("speed")
        super().__init__(
            data,
            initial={
                "day": day,
                "speed": write_in(SPEED_M_MIN / 60, unit),
                "on_minutes": f"{ON_MINUTES} min",
                "off_minutes": f"{OFF_MINUTES} min",
            },
        )
        for name in ("speed", "on_minutes", "off_minutes"):
            self.fields[name].widget.attrs["class"] = "form-control"
        self.fields["unknown_too"].widget.attrs["class"] = "form-check-input"
        self.drivers = [
            DrivingForm(
                data,
                prefix=f"driver-{user.pk}",
                user=user,
                initial=_usual(user, yard),
            )
            for user in yard.members.order_by("username")
        ]
        self.rows: list[WantedForm] = []

    def with_rows(self, known: Iterable[Due] = (), where: dict[int, Place] | None = None) -> None:
        """Rows: those that were sent, else those that are ``known`` to be wanted, and some more."""
        choices = self._choices()
        sent = 0
        if self.is_bound:
            while f"row-{sent}-load" in self.data and sent < MOST_TRANSFERS:
                sent += 1
            self.rows = [
                WantedForm(self.data, prefix=f"row-{n}", choices=choices) for n in range(sent)
            ]
        else:
            offered = load_choices(self.yard)
            initial = [_initial(one, where or {}, offered) for one in known][:MOST_TRANSFERS]
            self.rows = [
                WantedForm(prefix=f"row-{n}", choices=choices, initial=one)
                for n, one in enumerate(initial)
            ]
        more = len(self.rows), min(len(self.rows) + SPARE_ROWS, MOST_TRANSFERS)
        if not self.is_bound or self.data.get("more"):
            self.rows += [WantedForm(prefix=f"row-{n}", choices=choices) for n in range(*more)]

    def _choices(self) -> dict[str, Any]:
        places = [(str(p.pk), p.name) for p in Place.objects.filter(yard=self.yard)]
        outfits = [
            (outfit_key(hitch, trailer), f"{hitch.truck.name}, {trailer.name}")
            for hitch, trailer in pairs_of(self.yard)
        ]
        return {
            "load": [("", "choose"), *load_choices(self.yard).groups],
            "origin": [("", "choose"), *places],
            "goal": [("", "choose"), *places],
            "outfit": [("", "any outfit"), *outfits],
        }

    def clean_speed(self) -> float:
        """Metres a minute."""
        typed = str(self.cleaned_data.get("speed") or "").strip()
        if not typed:
            return SPEED_M_MIN
        try:
            speed = float(read_speed(typed, self.units.bare_unit("speed")).si) * 60
        except ReadingError as error:
            raise ValidationError(str(error)) from None
        if not 80 <= speed <= 3000:
            raise ValidationError("Write how fast an outfit gets on by road, stops included.")
        return speed

    def whole(self) -> bool:
        """Whether every box is right, and there is something to plan."""
        fine = self.is_valid()
        # every row is looked at, so that all that is wrong is told at once
        rows = [one.is_valid() for one in (*self.rows, *self.drivers)]
        if not fine or not all(rows):
            return False
        wanted = [one.wanted for one in self.rows if one.wanted is not None]
        if not wanted:
            self.add_error(None, "Choose at least one machine and where it has to go.")
        if not Place.objects.filter(yard=self.yard, home=True).exists():
            self.add_error(
                None, "Say in the book which place is the yard itself: every trip begins there."
            )
        if not any(one.cleaned_data["drives"] for one in self.drivers):
            self.add_error(None, "Tick who drives that day.")
        machines = [one.load.split("-")[1] for one in wanted if one.load.startswith("machine")]
        if len(machines) > len(set(machines)):
            self.add_error(None, "A machine stands there twice. It goes to one place in a day.")
        return not self.errors

    @property
    def asked(self) -> Asked:
        """What is asked for."""
        said = self.cleaned_data
        return Asked(
            day=said["day"],
            wanted=tuple(one.wanted for one in self.rows if one.wanted is not None),
            driving=tuple(
                Driving(
                    user=one.user.pk,
                    starts=minutes_of(one.cleaned_data["starts"]) or 0,
                    ends=minutes_of(one.cleaned_data["ends"]) or 0,
                )
                for one in self.drivers
                if one.cleaned_data["drives"]
            ),
            speed=said["speed"],
            on_minutes=said["on_minutes"] or ON_MINUTES,
            off_minutes=said["off_minutes"] or OFF_MINUTES,
            unknown_too=said["unknown_too"],
        )


def _usual(user: User, yard: Yard) -> dict[str, Any]:
    said = DriverTerms.objects.filter(yard=yard, user=user).first()
    if said is None:
        return {"drives": True, "starts": USUAL_START, "ends": USUAL_END}
    return {"drives": said.drives, "starts": said.starts, "ends": said.ends}


def _initial(one: Due, where: dict[int, Place], offered: LoadChoices) -> dict[str, Any]:
    stay = one.stay
    home = next((place for place in where.values() if place.home), None)
    there = one.there or home
    goal = home if one.back else stay.place
    return {
        "load": nearest_choice(stay.load, offered),
        "origin": "" if there is None else str(there.pk),
        "goal": "" if goal is None else str(goal.pk),
        "due": stay.since_time if not one.back and one.by.date() == stay.since else None,
    }


class StayForm(forms.ModelForm):
    """Where a machine has to be, from when and until when."""

    load = forms.ChoiceField(label="What")

    class Meta:
        model = Stay
        fields = ("place", "since", "since_time", "until", "until_time", "note")

    since = _date(label="There from")
    since_time = _hour(label="by")
    until = _date(required=False, label="Until")
    until_time = _hour(label="at")

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.instance.yard = yard
        self.order_fields(["load", *self.Meta.fields])
        box: Any = self.fields["load"]
        box.choices = [("", "choose"), *load_choices(yard).machines]
        box.error_messages["invalid_choice"] = "Choose a machine of the book."
        if self.instance.pk:
            self.initial["load"] = str(self.instance.load.key)
        places: Any = self.fields["place"]
        places.queryset = Place.objects.filter(yard=yard)
        places.empty_label = "choose"
        self.fields["since_time"].help_text = "Empty: some time that day."
        self.fields["until"].help_text = "When it may be fetched again. Empty: for good."
        self.fields["note"].widget.attrs["class"] = "form-control"
        for name in ("load", "place"):
            self.fields[name].widget.attrs["class"] = "form-select"

    def clean(self) -> dict[str, Any]:
        """It ends after it begins, and a machine is in one place."""
        said: dict[str, Any] = super().clean() or self.cleaned_data
        if self.errors:
            return said
        since = (said["since"], said["since_time"] or time.min)
        if said["until"] is not None and (said["until"], said["until_time"] or time.max) <= since:
            self.add_error("until", "That is before it begins. Change one of the days.")
            return said
        if said["until"] is None and said["until_time"] is not None:
            self.add_error("until", "Say the day too, or leave the hour empty.")
            return said
        load = read_load(said["load"], self.instance.yard)
        trial = Stay(
            pk=self.instance.pk,
            yard=self.instance.yard,
            machine=load.machine,
            configuration=load.configuration,
            **{name: said[name] for name in self.Meta.fields},
        )
        there = Stay.objects.filter(yard=self.instance.yard, machine=load.machine)
        other = overlapping(trial, there.select_related("place"))
        if other is not None:
            self.add_error(
                "since",
                f"It has to be at {other.place.name} at that time. Change that, or these days.",
            )
        self.instance.machine, self.instance.configuration = trial.machine, trial.configuration
        return said


class TermsForm(InUnits, forms.ModelForm):
    """When somebody drives as a rule, and what he may."""

    class Meta:
        model = DriverTerms
        fields = ("drives", "starts", "ends", "most_trailer", "most_together")

    starts = _hour(required=True, label="From")
    ends = _hour(required=True, label="Until")

    def __init__(self, *args: Any, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["drives"].widget.attrs["class"] = "form-check-input"
        self.prepare(units)

    def clean(self) -> dict[str, Any]:
        """The day runs forward."""
        said: dict[str, Any] = super().clean() or self.cleaned_data
        starts, ends = said.get("starts"), said.get("ends")
        if starts and ends and ends <= starts:
            self.add_error("ends", "That is before the start. Change one of the hours.")
        return said


def tomorrow(yard: Yard) -> date:
    """The next day by the yard's clock."""
    return date.fromordinal(timezone.localdate(timezone=yard.clock).toordinal() + 1)
