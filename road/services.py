"""Doing the steps of a haul one after the other, and taking the last one back."""

from __future__ import annotations

from collections.abc import Collection
from datetime import datetime
from typing import Final

from django.db import transaction
from django.utils import timezone

from book.models import Aboard, Ticket
from book.services.photos import attach_encoded, encoded
from gauge.services import Reading, keep_reading
from hauls.models import Haul
from mechanics.report import Report
from road.defects import held_up_by, held_up_words
from road.forms import StoppedForm
from road.models import (
    ORDER,
    HaulWeather,
    LookedAgain,
    Step,
    StepDone,
    Stopped,
    StoppedLoad,
)
from yards.models import User

STATES: Final = {
    Step.WALK_ROUND: Haul.State.READY,
    Step.GO: Haul.State.ON_THE_ROAD,
    Step.UNLOAD: Haul.State.DELIVERED,
    Step.COME_BACK: Haul.State.BACK,
}
"""Steps that change what a haul's state is."""


GATES: Final = (Step.HOOK_UP, Step.GO)
"""Steps that an open defect of the truck or trailer holds up."""


class NotNextError(Exception):
    """The step is not the one that comes next; nothing is stored."""


class HeldUpError(Exception):
    """A defect holds the haul up; the message says which, and who has to do what."""


class ReadInBetweenError(Exception):
    """Somebody else read where it stopped in between; ``theirs`` is what they kept."""

    def __init__(self, theirs: Stopped) -> None:
        self.theirs = theirs
        super().__init__(str(theirs))


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
def do_step(haul: Haul, step: Step, *, user: User, at: datetime | None = None) -> StepDone:
    """Note that the next step is done, now or ``at`` a time; the step as it is noted. Done already,
    it stays as it was noted, by whomever.

    Raises:
        NotNextError: another step comes first.
        HeldUpError: a defect holds the haul up.
    """
    done = _done(haul)
    if step in done:
        return StepDone.objects.select_related("by").get(haul=haul, step=step)
    if next_step(done) is not step:
        raise NotNextError
    if step in GATES and (held := held_up_words(held_up_by(haul))):
        raise HeldUpError(held)
    noted, _ = StepDone.objects.get_or_create(
        haul=haul,
        step=step,
        defaults={"by": user, "revision": haul.revision, "at": at or timezone.now()},
    )
    _keep_state(haul, {*done, step})
    return noted


@transaction.atomic
def look_again(haul: Haul, *, user: User, at: datetime) -> LookedAgain:
    """Note a stop after the first one.

    Raises:
        NotNextError: it has not made its first stop, or is unloaded already.
    """
    if next_step(_done(haul)) is not Step.UNLOAD:
        raise NotNextError
    return LookedAgain.objects.create(haul=haul, by=user, at=at)


def say_weather(haul: Haul, kind: str) -> None:
    """Say what weather a haul goes out in."""
    HaulWeather.objects.update_or_create(haul=haul, defaults={"kind": kind})


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
def keep_stopped(
    haul: Haul,
    report: Report,
    form: StoppedForm,
    *,
    user: User,
    at: datetime,
    base: int | None = None,
) -> Stopped:
    """Keep where a haul's loads really stopped, beside where they were to stop by its plan as it is
    now. The form has been found right. ``base`` is the reading that was known when it was made, 0
    for none; ``None`` keeps it whatever was read in between.

    Raises:
        ReadInBetweenError: somebody else read it in between; nothing is kept.
        PhotoError: the file is no photo that can be kept; nothing is.
    """
    told = form.cleaned_data
    Haul.objects.select_for_update().get(pk=haul.pk)
    last = Stopped.objects.filter(haul=haul).select_related("by").first()
    if base is not None and last is not None and last.pk != base and last.by_id != user.pk:
        raise ReadInBetweenError(last)
    picture = encoded(told["photo"]) if told["photo"] else None
    stopped = Stopped.objects.create(
        haul=haul,
        gauge=told["gauge"],
        arch_front=told["arch_front"],
        arch_rear=told["arch_rear"],
        note=told["note"],
        revision=haul.revision,
        tongue_kg=report.loads.trailer.tongue_kg,
        by=user,
        at=at,
    )
    if picture is not None:
        attach_encoded(stopped, picture, caption="Where it stopped", user=user)
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


@transaction.atomic
def teach(stopped: Stopped, *, user: User) -> Ticket:
    """Make a ticket of what the gauge showed and where the loads stood, for the book to learn from.
    Made already, it is that one.

    Raises:
        ValueError: no gauge was read, no mark was taped, or the trailer is not in the book.
    """
    haul = stopped.haul
    if stopped.ticket is not None:
        return stopped.ticket
    marks = {load.item_id: load.mark for load in stopped.loads.all()}
    items = [item.id for item in haul.draft.plan.items]
    if stopped.gauge is None or haul.trailer is None or set(marks) != set(items):
        raise ValueError("a gauge, every mark and a trailer of the book")
    reading = Reading(mass=stopped.gauge, index=0, reference=marks[items[0]])
    day = timezone.localtime(stopped.at).date()
    ticket = keep_reading(haul, None, reading, user=user, day=day)
    loads = ticket.loads.filter(kind=Aboard.Kind.ITEM)
    for aboard, item in zip(loads, items, strict=True):
        aboard.reference = marks[item]
        aboard.save()
    stopped.ticket = ticket
    stopped.save(update_fields=["ticket"])
    return ticket


def _done(haul: Haul) -> set[Step]:
    """Steps that are done, read with the haul held for writing."""
    Haul.objects.select_for_update().get(pk=haul.pk)
    return {Step(one) for one in StepDone.objects.filter(haul=haul).values_list("step", flat=True)}


def _keep_state(haul: Haul, done: Collection[Step]) -> None:
    haul.state = state_of(done)
    Haul.objects.filter(pk=haul.pk).update(state=haul.state)
