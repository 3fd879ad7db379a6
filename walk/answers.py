"""What a walk has found out: each step's answer as the book holds it, and putting one there.

Every answer is one box of the book. It is written by itself, on top of what the page showed, so
that two people on one walk never overwrite each other unseen.
"""

from __future__ import annotations

from decimal import Decimal
from typing import Any, Final

from django.db import transaction
from django.db.models import F

from book.forms import link_parts
from book.history import keep, recorded
from book.models import Hitch, HitchPart, Known, Machine, Thing, Trailer, Truck
from book.services.things import free_name
from measures import Quantity
from measures.writing import write_entered
from walk.models import Walk
from walk.steps import IN_BED, STEPS, Part, Step
from yards.models import User

Typed = Quantity | str | None
"""An answer: a measure, the value of a choice, or nothing yet."""

WHY: Final = "tape walk"
"""What the history says of these changes."""

RUNNING: Final = {
    Machine.Shape.EXCAVATOR: Machine.Running.TRACKS,
    Machine.Shape.IMPLEMENT: Machine.Running.SKIDS,
    Machine.Shape.PALLET: Machine.Running.SKIDS,
}
"""What kinds stand on that do not stand on wheels."""

MARKS: Final = {
    Machine.Running.WHEELS: "rear axle",
    Machine.Running.TRACKS: "track centre",
    Machine.Running.SKIDS: "middle",
}
"""The mark that each is taped from on a walk."""


class MeanwhileError(Exception):
    """Somebody else answered in between; ``theirs`` is what they found."""

    def __init__(self, theirs: str) -> None:
        self.theirs = theirs
        super().__init__(theirs)


def asked(walk: Walk) -> tuple[Step, ...]:
    """The steps that this outfit is asked: nobody is asked for a wheelbase of a pallet."""
    machine = walk.machine
    left: set[str] = set()
    if machine is not None:
        if machine.shape not in (Machine.Shape.TRACTOR, Machine.Shape.LOADER):
            left.add("what-hangs-on-it")
        if machine.hung in (Machine.Hung.NOT_SAID, Machine.Hung.NOTHING):
            left.add("counted")
        if machine.running == Machine.Running.SKIDS:
            left.add("wheel-to-wheel")
    return tuple(step for step in STEPS if step.slug not in left)


def answer_of(walk: Walk, step: Step) -> Typed:
    """What the book holds for a step; ``None`` where it is not known."""
    reader = {
        Part.TRUCK: _of_the_truck,
        Part.BALL: _of_the_ball,
        Part.TRAILER: _of_the_trailer,
        Part.MACHINE: _of_the_machine,
    }[step.part]
    found: Typed = reader(walk, step)
    return found


def written(walk: Walk, step: Step) -> str:
    """The answer as a person reads it, as it was entered; empty where there is none."""
    found = answer_of(walk, step)
    if found is None:
        return ""
    if isinstance(found, Quantity):
        return write_entered(found)
    return dict(step.choices).get(found, found)


def held(walk: Walk, step: Step) -> str:
    """The answer as the page holds it, to notice whether somebody changed it meanwhile."""
    found = answer_of(walk, step)
    return "" if found is None else str(found)


def _of_the_truck(walk: Walk, step: Step) -> Typed:
    if walk.truck is None:
        return None
    found: Typed = getattr(walk.truck, step.field)
    return found


def _of_the_ball(walk: Walk, step: Step) -> Typed:
    hitch = walk.hitch
    if hitch is None:
        return None
    if step.field == "offset":
        offset: Typed = hitch.offset
        return offset
    parts = [link.part for link in hitch.links.all()]
    if step.field == "ball":
        ball = next((p for p in parts if p.kind in HitchPart.BALLS and p.ball_size), None)
        if ball is None:
            return None
        return IN_BED if hitch.type == Hitch.Type.GOOSENECK else str(ball.ball_size)
    rated = next((p for p in parts if p.kind == HitchPart.Kind.RECEIVER), None)
    if rated is None:
        return None
    found: Typed = rated.max_trailer_mass if step.field == "rated" else rated.max_tongue_mass
    return found


def _of_the_trailer(walk: Walk, step: Step) -> Typed:
    trailer = walk.trailer
    if trailer is None:
        return None
    axles = list(trailer.axles.all())
    if step.field == "axles":
        return str(len(axles)) if axles else None
    if step.field == "axle_rating":
        ratings = [axle.gawr for axle in axles]
        return ratings[0] if ratings else None
    if step.field == "coupler":
        coupler = _coupler(trailer)
        return None if coupler is None or coupler.ball_size is None else str(coupler.ball_size)
    if step.field == "axles_at" and axles and all(axle.position is not None for axle in axles):
        # taped one by one before: the middle of them is known
        unit = axles[0].position.unit
        middle = sum(axle.position.si for axle in axles) / len(axles)
        each = Quantity(Decimal(1), unit).si
        return Quantity(round(Decimal(float(middle / each)), 3).normalize(), unit)
    if step.field == "kind" and not _kind_said(walk, step):
        return None
    found: Typed = getattr(trailer, step.field)
    return found


def _coupler(trailer: Trailer) -> HitchPart | None:
    parts = [link.part for link in trailer.links.all()]
    return next((part for part in parts if part.kind == HitchPart.Kind.COUPLER), None)


def _of_the_machine(walk: Walk, step: Step) -> Typed:
    machine = walk.machine
    if machine is None:
        return None
    if step.field == "hung_counted":
        if machine.hung_counted:
            return "yes"
        return "no" if walk.said(step.slug) or not walk.made_here("machine") else None
    if step.field == "shape" and not _kind_said(walk, step):
        return None
    found: Typed = getattr(machine, step.field)
    return found if found != "" else None


def _kind_said(walk: Walk, step: Step) -> bool:
    """Whether somebody said what kind a thing is: one that came into the book for another figure
    has a kind that nobody chose."""
    return walk.said(step.slug) or not walk.made_here(step.part.value)


def answer(walk: Walk, step: Step, value: Quantity | str, *, was: str, user: User) -> None:
    """Put an answer into the book.

    Raises:
        MeanwhileError: the book no longer holds what the page showed; nothing is stored.
    """
    with recorded(yard=walk.yard, user=user, why=WHY):
        now = Walk.objects.select_related("truck", "hitch", "trailer", "machine").get(pk=walk.pk)
        if held(now, step) not in (was, str(value)):
            raise MeanwhileError(written(now, step))
        writer = {
            Part.TRUCK: _into_the_truck,
            Part.BALL: _into_the_ball,
            Part.TRAILER: _into_the_trailer,
            Part.MACHINE: _into_the_machine,
        }[step.part]
        thing = writer(now, step, value)
        type(thing)._default_manager.filter(pk=thing.pk).update(version=F("version") + 1)
        keep(thing)
        now.with_marks(f"={step.slug}", f"-{step.slug}")
        now.save()


@transaction.atomic
def leave_out(walk: Walk, step: Step) -> None:
    """Go on without an answer; what the book holds stays."""
    now = Walk.objects.get(pk=walk.pk)
    now.with_marks(f"-{step.slug}")
    now.save()


def _into_the_truck(walk: Walk, step: Step, value: Any) -> Thing:
    truck = _truck(walk)
    setattr(truck, step.field, value)
    truck.save()
    return truck


def _truck(walk: Walk) -> Truck:
    if walk.truck is None:
        walk.truck = Truck.objects.create(
            yard=walk.yard,
            name=free_name(Truck, walk.yard_id, "Truck"),
            empty_from=Truck.EmptyFrom.STICKER,
        )
    if walk.hitch is None:
        walk.hitch = Hitch.objects.create(truck=walk.truck, name="Receiver")
    return walk.truck


def _into_the_ball(walk: Walk, step: Step, value: Any) -> Thing:
    truck = _truck(walk)
    hitch = walk.hitch
    if hitch is None:
        raise ValueError("a truck of a walk has a hitch")
    if step.field == "offset":
        hitch.offset = value
        hitch.save()
    elif step.field == "ball":
        _put_ball(hitch, truck, str(value))
    else:
        receiver = _part_of(hitch, truck, HitchPart.Kind.RECEIVER)
        name = "max_trailer_mass" if step.field == "rated" else "max_tongue_mass"
        setattr(receiver, name, value)
        receiver.save()
        keep(receiver)
    return truck


def _put_ball(hitch: Hitch, truck: Truck, value: str) -> None:
    in_bed = value == IN_BED
    hitch.type = Hitch.Type.GOOSENECK if in_bed else Hitch.Type.BALL
    hitch.name = "Bed ball" if in_bed else "Receiver"
    hitch.save()
    kind = HitchPart.Kind.GOOSENECK_BALL if in_bed else HitchPart.Kind.BALL
    other = HitchPart.Kind.BALL if in_bed else HitchPart.Kind.GOOSENECK_BALL
    hitch.links.filter(part__kind=other).delete()
    ball = _part_of(hitch, truck, kind)
    ball.ball_size = Quantity.parse(value.removeprefix("bed "))
    ball.save()
    keep(ball)


def _part_of(hitch: Hitch, truck: Truck, kind: HitchPart.Kind) -> HitchPart:
    """The hitch's part of a kind, brought into the book where there is none."""
    parts = [link.part for link in hitch.links.all()]
    found = next((part for part in parts if part.kind == kind), None)
    if found is None:
        name = free_name(HitchPart, truck.yard_id, f"{kind.label}, {truck.name}"[:110])
        found = HitchPart.objects.create(yard=truck.yard, name=name, kind=kind)
        link_parts(hitch, [*parts, found])
    return found


def _into_the_trailer(walk: Walk, step: Step, value: Any) -> Thing:
    if walk.trailer is None:
        name = free_name(Trailer, walk.yard_id, "Trailer")
        walk.trailer = Trailer.objects.create(yard=walk.yard, name=name)
        walk.with_marks("+trailer")
    trailer = walk.trailer
    axles = list(trailer.axles.all())
    if step.field == "axles":
        _count_axles(trailer, int(value))
    elif step.field == "axle_rating":
        if not axles:
            trailer.axles.create(gawr=value)
        for axle in axles:
            axle.gawr = value
            axle.save()
    elif step.field == "coupler":
        _put_coupler(trailer, str(value))
    else:
        if step.field == "axles_at":
            # taped anew: places one by one of before no longer count
            trailer.axles.update(position=None)
        setattr(trailer, step.field, value)
    trailer.save()
    return trailer


def _count_axles(trailer: Trailer, count: int) -> None:
    axles = list(trailer.axles.all())
    for axle in axles[count:]:
        axle.delete()
    for _ in range(count - len(axles)):
        trailer.axles.create(gawr=axles[0].gawr if axles else None)


def _put_coupler(trailer: Trailer, value: str) -> None:
    coupler = _coupler(trailer)
    if coupler is None:
        name = free_name(HitchPart, trailer.yard_id, f"Coupler, {trailer.name}"[:110])
        coupler = HitchPart.objects.create(
            yard=trailer.yard, name=name, kind=HitchPart.Kind.COUPLER
        )
        link_parts(trailer, [*(link.part for link in trailer.links.all()), coupler])
    coupler.ball_size = Quantity.parse(value)
    coupler.save()
    keep(coupler)


def _into_the_machine(walk: Walk, step: Step, value: Any) -> Thing:
    if walk.machine is None:
        name = free_name(Machine, walk.yard_id, "Machine")
        walk.machine = Machine.objects.create(yard=walk.yard, name=name, mass_known=Known.BROCHURE)
        walk.with_marks("+machine")
    machine = walk.machine
    if step.field == "shape":
        _be_of_kind(machine, str(value))
    elif step.field == "hung_counted":
        machine.hung_counted = value == "yes"
    elif step.field == "mass":
        machine.mass, machine.mass_known = value, Known.BROCHURE
        machine.mass_tolerance, machine.built = None, Machine.Built.WHOLE
    else:
        setattr(machine, step.field, value)
    machine.save()
    return machine


def _be_of_kind(machine: Machine, shape: str) -> None:
    """A kind brings what it stands on and the mark it is taped from; a name nobody gave follows."""
    before = Machine.Shape(machine.shape)
    machine.shape = shape
    machine.running = RUNNING.get(Machine.Shape(shape), Machine.Running.WHEELS)
    machine.mark_name = MARKS[Machine.Running(machine.running)]
    if machine.name.split(" ")[0] in ("Machine", *_plain_names(before)):
        label = _plain_names(Machine.Shape(shape))[0]
        machine.name = free_name(Machine, machine.yard_id, label)
    if shape not in (Machine.Shape.TRACTOR, Machine.Shape.LOADER):
        machine.hung = Machine.Hung.NOTHING


def _plain_names(shape: Machine.Shape) -> tuple[str, ...]:
    return {
        Machine.Shape.LOADER: ("Loader",),
        Machine.Shape.CAR: ("Car",),
        Machine.Shape.PALLET: ("Pallet",),
        Machine.Shape.EXCAVATOR: ("Excavator",),
    }.get(shape, (str(shape.label),))
