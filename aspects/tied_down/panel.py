"""The planner's side panel of tying down."""

from __future__ import annotations

from dataclasses import dataclass

from aspects.registry import Ground, Panel
from hauls.tied import judged, whole
from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.securing import secure
from wording.securing import BY_SCHOOL


@dataclass(frozen=True, kw_only=True, slots=True)
class TiedPanel:
    """How it is tied down, in a line; no status where nothing is tied yet."""

    haul_pk: int
    status: str
    word: str


def panel(ground: Ground) -> Panel:
    """How what is planned is tied down."""
    plan = ground.draft.plan
    status, word = "", "Nothing is tied down yet."
    if plan.securing is not None and plan.securing.ties:
        found = Status.UNKNOWN
        try:
            report = secure(plan, plan.securing.school)
        except InputError as error:
            word = str(error)
        else:
            together = whole(judged(ground.draft, report, None, ground.unit))
            found, ties = together.status, len(plan.securing.ties)
            word = (
                f"{ties} tie{'s' if ties > 1 else ''}, {together.word} "
                f"{BY_SCHOOL[plan.securing.school]} as planned."
            )
        status = found.value
    return Panel(
        template="tied_down/_panel.html",
        it=TiedPanel(haul_pk=ground.haul.pk, status=status, word=word),
    )
