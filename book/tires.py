"""How old a tire is, by the week and year on its sidewall."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Final

from django.core.exceptions import ValidationError

LOOK_AT_YEARS: Final = 6
OLD_YEARS: Final = 10
"""From which age tires are looked at closely, and from which they are not driven on. Common
practice, no source."""


def made_on(code: str) -> date | None:
    """The Monday of the week that a code names: 2319 is the 23rd week of 2019. ``None`` where it
    names none."""
    if len(code) != 4 or not (code.isascii() and code.isdigit()):
        return None
    week, year = int(code[:2]), 2000 + int(code[2:])
    try:
        return date.fromisocalendar(year, week, 1)
    except ValueError:
        # sidewalls count a 53rd week in years that have none by the calendar
        return date.fromisocalendar(year, 52, 1) + timedelta(weeks=1) if week == 53 else None


def date_code(code: str) -> None:
    """Nothing, where the code names a week.

    Raises:
        ValidationError: it does not.
    """
    if made_on(code) is None:
        raise ValidationError(
            "Four digits, the week first: 2319 is the 23rd week of 2019. A code of three digits is "
            "of before 2000."
        )


def years_old(code: str, today: date) -> float | None:
    """Years since the week a code names; ``None`` where it names none. Never below zero."""
    made = made_on(code)
    return None if made is None else max(0.0, (today - made).days / 365.25)
