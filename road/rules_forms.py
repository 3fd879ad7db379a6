"""Boxes of how a yard goes on the road."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Final

from django import forms
from django.core.exceptions import ValidationError
from django.forms import BoundField

from book.fields import QuantityFormField
from book.forms import InUnits
from hauls.hookup import COUPLING, NAMES
from hauls.road_rules import LONGEST_LINE, MOST_LINES, ListRules, RoadRules
from measures import UnitSystem
from road.lists import TITLES
from road.models import Step
from wording.law import LAWS

STANDARD: Final = {
    Step.HOOK_UP: tuple(COUPLING),
    Step.WALK_ROUND: tuple(key for key in NAMES if key not in COUPLING),
}
"""Standard lines of the lists that can be edited, by their keys."""

EDITABLE: Final = "Untick what the yard does without; a box says a line in the yard's own words."
ABOUT: Final = {
    Step.LOAD: "Made from each machine: what is on it, and what has to be down, folded or off.",
    Step.TIE_DOWN: "Made from what the plan ties with, and what comes off the rack.",
    Step.FIRST_STOP: "Ties, hubs, tires, lights, latch and plug.",
}
"""What each list is made of."""

KEEP, SAY, OWN = "keep-{}", "say-{}", "own-{}"


@dataclass(frozen=True, kw_only=True)
class LineBoxes:
    """A standard line: whether it stays, and how the yard says it."""

    name: str
    keep: BoundField
    say: BoundField


@dataclass(frozen=True, kw_only=True)
class ListBoxes:
    """A list: its standard lines, and the yard's own, one to a line."""

    title: str
    about: str
    lines: list[LineBoxes]
    own: BoundField


class RoadRulesForm(InUnits, forms.Form):
    """How many people tick, when it is stopped, whose law, and the lists."""

    two_people = forms.BooleanField(
        label="Two people tick every line",
        required=False,
        help_text="A line is done once a second person has looked, too.",
    )
    first_minutes = forms.IntegerField(
        label="First stop after minutes",
        min_value=1,
        max_value=240,
        widget=forms.TextInput(attrs={"inputmode": "numeric"}),
    )
    first_way = QuantityFormField(kind="distance", least="positive", label="or after")
    later_hours = forms.IntegerField(
        label="Later stops every hours",
        min_value=1,
        max_value=24,
        widget=forms.TextInput(attrs={"inputmode": "numeric"}),
    )
    later_way = QuantityFormField(kind="distance", least="positive", label="or every")
    law = forms.ChoiceField(
        label="Legal flags by",
        required=False,
        choices=[
            ("", "the US set in pounds, the EU set in kilograms"),
            *((key, one.name) for key, one in LAWS.items()),
        ],
    )

    def __init__(self, data: Any = None, *, rules: RoadRules, units: UnitSystem) -> None:
        super().__init__(
            data,
            initial={
                name: getattr(rules, name)
                for name in ("two_people", "first_minutes", "later_hours", "law")
            }
            | {"first_way": rules.first_way, "later_way": rules.later_way},
        )
        for step in TITLES:
            of = rules.of_list(step.value)
            for key in STANDARD.get(step, ()):
                self.fields[KEEP.format(key)] = forms.BooleanField(
                    label=NAMES[key], required=False, initial=key not in of.left_out
                )
                self.fields[SAY.format(key)] = forms.CharField(
                    label=f"{NAMES[key]}, in our words",
                    required=False,
                    max_length=LONGEST_LINE,
                    initial=of.words(key, ""),
                    widget=forms.TextInput(attrs={"placeholder": "as made from the outfit"}),
                )
            self.fields[OWN.format(step.value)] = forms.CharField(
                label="Lines of our own, one to a line",
                required=False,
                max_length=LONGEST_LINE * MOST_LINES,
                initial="\n".join(of.own),
                widget=forms.Textarea(attrs={"rows": 2}),
            )
        self.prepare(units)

    def clean(self) -> dict[str, Any]:
        """No more lines of one's own, and none longer, than can be read on a phone."""
        found: dict[str, Any] = super().clean() or {}
        for step in TITLES:
            name = OWN.format(step.value)
            lines = _lines(found.get(name, ""))
            if len(lines) > MOST_LINES:
                self.add_error(name, ValidationError(f"No more than {MOST_LINES} lines."))
            elif any(len(line) > LONGEST_LINE for line in lines):
                self.add_error(
                    name, ValidationError(f"A line has no more than {LONGEST_LINE} characters.")
                )
        return found

    @property
    def head(self) -> list[BoundField]:
        """Boxes that belong to no list."""
        return [self[name] for name in self.base_fields]

    @property
    def lists(self) -> Iterator[ListBoxes]:
        """The lists with their boxes."""
        for step, title in TITLES.items():
            yield ListBoxes(
                title=title,
                about=ABOUT.get(step, EDITABLE),
                lines=[
                    LineBoxes(
                        name=NAMES[key], keep=self[KEEP.format(key)], say=self[SAY.format(key)]
                    )
                    for key in STANDARD.get(step, ())
                ],
                own=self[OWN.format(step.value)],
            )

    def rules(self, before: RoadRules) -> RoadRules:
        """The rules that were entered; the yard's own flags stay as they were ``before``."""
        told = self.cleaned_data
        lists = {}
        for step in TITLES:
            keys = STANDARD.get(step, ())
            lists[step.value] = ListRules(
                left_out=tuple(key for key in keys if not told[KEEP.format(key)]),
                reworded=tuple(
                    (key, words) for key in keys if (words := told[SAY.format(key)].strip())
                ),
                own=tuple(_lines(told[OWN.format(step.value)])),
            )
        return RoadRules(
            two_people=told["two_people"],
            first_minutes=told["first_minutes"],
            first_way=told["first_way"],
            later_hours=told["later_hours"],
            later_way=told["later_way"],
            law=told["law"],
            lists={key: one for key, one in lists.items() if one != ListRules()},
            own_flags=before.own_flags,
        )


def _lines(text: str) -> list[str]:
    return [line.strip() for line in text.splitlines() if line.strip()]
