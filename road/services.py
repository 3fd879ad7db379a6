"""Doing the steps of a haul one after the other, and taking the last one back."""

from __future__ import annotations

from collections.abc import Collection
from typing import Final

from django.db import transaction

from hauls.models import Haul
from mechanics.report import Report
from road.forms import StoppedForm
from road.models import ORDER, Step, StepDone, Stopped, StoppedLoad
from yards.models import User

STATES: Final = {
    Step.WALK_ROUND: Haul.State.READY,
    Step.GO: Haul.State.ON_THE_ROAD,
    Step.UNLOAD: Haul.State.DELIVERED,
    Step.COME_BACK: Haul.State.BACK,
}
"""Steps that change what a haul's state is."""


class NotNextError(Exception):
    """The step is not the one that comes next; nothing is stored."""


def next_step(done: Collection[Step]) -> Step | None:
    """What comes next; ``None`` once all is done."""
    return next((step for step in ORDER if step not in done), None)


def last_step(done: Collection[Step]) -> Step | None:
    """What was done last; ``None`` where nothing was."""
    return next((step for step in reversed(ORDER) if step in done), None)


def state_of(done: Collection[Step]) -> Haul.State:
    """A haul's state by the steps that are done."""
    return next(
        (STATES[s] for s in reversed(ORDER) if s in done and s in STATES), Haul.State.PLANNED
    )


@transaction.atomic
def do_step(haul: Haul, step: Step, *, user: User) -> None:
    """Note that the next step is done. Done already, it stays as it was noted.

    Raises:
        NotNextError: another step comes first.
    """
    done = _done(haul)
    if step in done:
        return
    if next_step(done) is not step:
        raise NotNextError
    StepDone.objects.get_or_create(
        haul=haul, step=step, defaults={"by": user, "revision": haul.revision}
    )
    _keep_state(haul, {*done, step})


@transaction.atomic
def take_back(haul: Haul, step: Step) -> None:
    """Take the last step back. Taken back already, nothing changes.

    Raises:
        NotNextError: something was done after it.
    """
    done = _done(haul)
    if step not in done:
        return
    if last_step(done) is not step:
        raise NotNextError
    StepDone.objects.filter(haul=haul, step=step).delete()
    _keep_state(haul, done - {step})


@transaction.atomic
def keep_stopped(haul: Haul, report: Report, form: StoppedForm, *, user: User) -> Stopped:
    """Keep where a haul's loads really stopped, beside where they were to stop by its plan as it is
    now. The form has been found right."""
    told = form.cleaned_data
    stopped = Stopped.objects.create(
        haul=haul,
        gauge=told["gauge"],
        arch_front=told["arch_front"],
        arch_rear=told["arch_rear"],
        note=told["note"],
        revision=haul.revision,
        tongue_kg=report.loads.trailer.tongue_kg,
        by=user,
    )
    for item_id, mark in form.taped:
        item = report.plan.item(item_id)
        StoppedLoad.objects.create(
            stopped=stopped,
            item_id=item_id,
            name=item.called[:200],
            mark=mark,
            planned_m=item.placement.reference_m,
        )
    return stopped


def _done(haul: Haul) -> set[Step]:
    """Steps that are done, read with the haul held for writing."""
    Haul.objects.select_for_update().get(pk=haul.pk)
    return {Step(one) for one in StepDone.objects.filter(haul=haul).values_list("step", flat=True)}


def _keep_state(haul: Haul, done: Collection[Step]) -> None:
    haul.state = state_of(done)
    Haul.objects.filter(pk=haul.pk).update(state=haul.state)
