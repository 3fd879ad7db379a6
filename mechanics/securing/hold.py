"""What the ties of an item hold in a direction, and what each pulls when it is pushed.

The item moves as one piece; each tie that is lengthened pulls in proportion. The first one
to reach what it may pull ends it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.securing.rope import FORWARD, LEFT, REARWARD, RIGHT, Rope, Vector, ropes
from mechanics.ties import Securing, SecuringSchool

WAYS = {"forward": FORWARD, "rearward": REARWARD, "left": LEFT, "right": RIGHT}
"""The four level directions a load is pushed in; forward is towards the truck."""

LIMITS = {
    SecuringSchool.US_393: {"forward": 0.435, "rearward": 0.5, "left": 0.25, "right": 0.25},
    SecuringSchool.STRICT: {"forward": 0.8, "rearward": 0.5, "left": 0.5, "right": 0.5},
    SecuringSchool.EN_12195: {"forward": 0.8, "rearward": 0.5, "left": 0.5, "right": 0.5},
}
"""Least g that has to be held: 49 CFR 393.102(a) on working load limits, common practice
without a source, EN 12195-1; the published ones from memory."""

UP_LIMIT = 0.2
"""Least g upward (49 CFR 393.102(b), from memory)."""

EN_FRICTION = 0.75
"""Part of the friction that EN 12195-1 counts on the road (from memory)."""


def securing_of(plan: Plan) -> Securing:
    """How a plan is tied down; one that says nothing of it is asked about by the US rule."""
    return plan.securing or Securing(school=SecuringSchool.US_393)


def friction_of(plan: Plan) -> float:
    """The friction that counts by the plan's school."""
    securing = securing_of(plan)
    if securing.school is SecuringSchool.STRICT:
        return 0.0
    if securing.school is SecuringSchool.EN_12195:
        return EN_FRICTION * securing.friction
    return securing.friction


def allowed(every: Sequence[Rope]) -> dict[str, float | None]:
    """What each tie may pull, in kg, by its id; ``None`` where its own limit is not known.

    Its own limit or an anchor's where that is less, times an anchor's quotient where all ties
    at it together exceed what it holds.
    """
    own: dict[str, float | None] = {}
    for rope in every:
        known = [a.wll_kg for a in rope.anchors if a.wll_kg is not None]
        limit = rope.tie.wll_kg
        own[rope.tie.id] = None if limit is None else min([limit, *known])
    together: dict[str, float] = {}
    holds: dict[str, float] = {}
    for rope in every:
        for anchor in rope.anchors:
            if anchor.wll_kg is not None:
                holds[anchor.id] = anchor.wll_kg
                together[anchor.id] = together.get(anchor.id, 0.0) + (own[rope.tie.id] or 0.0)
    quotients = {one: holds[one] / total for one, total in together.items() if total > holds[one]}
    found: dict[str, float | None] = {}
    for rope in every:
        limit = own[rope.tie.id]
        factor = min((quotients.get(a.id, 1.0) for a in rope.anchors), default=1.0)
        found[rope.tie.id] = None if limit is None else limit * factor
    return found


@dataclass(frozen=True, kw_only=True, slots=True)
class Pull:
    """What one tie does when what it belongs to is held at its most: what it pulls, and the part
    of that along the way."""

    tie: str
    pull_kg: float
    part: float


def at_most(
    own: Sequence[Rope], may: Mapping[str, float | None], way: Vector
) -> tuple[Pull, ...] | None:
    """Each tie that pulls when the first of them has reached what it may; ``None`` where one that
    would has no known limit."""
    pulling = [(rope, c) for rope in own if (c := rope.share(way)) > 0]
    if any(may[rope.tie.id] is None for rope, _ in pulling):
        return None
    # how far it moves until the first tie has reached what it may pull
    moved = min(((may[r.tie.id] or 0.0) / (r.stiffness * c) for r, c in pulling), default=0.0)
    return tuple(Pull(tie=r.tie.id, pull_kg=r.stiffness * moved * c, part=c) for r, c in pulling)


def held_kg(
    own: Sequence[Rope], may: Mapping[str, float | None], way: Vector, rubbing: float
) -> float | None:
    """What an item's ties hold in a direction, with what friction holds; ``None`` where a tie that
    pulls that way has no known limit."""
    pulls = at_most(own, may, way)
    return None if pulls is None else sum(p.pull_kg * p.part for p in pulls) + rubbing


def ideal_kg(own: Sequence[Rope], may: Mapping[str, float | None], way: Vector) -> float | None:
    """What ties would hold along a way if each did its most at once, friction not counted;
    ``None`` where one that pulls has no known limit. They hold less as they share."""
    found = 0.0
    for rope in own:
        part = rope.share(way)
        limit = may[rope.tie.id]
        if part > 0 and limit is None:
            return None
        found += part * (limit or 0.0)
    return found


def rubbing_kg(own: Sequence[Rope], mass_kg: float, mu: float) -> float:
    """What friction holds, with the ties' pretension pressing down."""
    if mu == 0:
        return 0.0
    return mu * (mass_kg + sum(r.tie.pretension_kg * r.pressing for r in own))


def pulls(
    own: Sequence[Rope],
    may: Mapping[str, float | None],
    way: Vector,
    pushed_kg: float,
    rubbing: float,
) -> dict[str, float | None]:
    """What each tie pulls when an item is pushed, friction taken off first.

    Zero where it does not pull; ``None`` of a tie without a limit, and of all that pull where
    one of them has none.
    """
    pulling = {rope.tie.id: c for rope in own if (c := rope.share(way)) > 0}
    unknown = any(may[one] is None for one in pulling)
    left = max(0.0, pushed_kg - rubbing)
    stiff = sum(r.stiffness * pulling[r.tie.id] ** 2 for r in own if r.tie.id in pulling)
    found: dict[str, float | None] = {}
    for rope in own:
        one = rope.tie.id
        if may[one] is None or unknown:
            found[one] = None
        elif one not in pulling:
            found[one] = 0.0
        else:
            found[one] = rope.stiffness * pulling[one] * left / stiff
    return found


def pushed(
    plan: Plan, item: Item, own: Sequence[Rope], may: Mapping[str, float | None], name: str
) -> dict[str, float | None]:
    """What an item's ties pull when it is pushed by the rule's g in a direction, by their ids."""
    school = securing_of(plan).school
    mass = item.mass_kg + item.mass_tolerance_kg
    rubs = rubbing_kg(own, mass, friction_of(plan))
    return pulls(own, may, WAYS[name], LIMITS[school][name] * mass, rubs)


def all_ropes(plan: Plan) -> tuple[Rope, ...]:
    """Every tie of the plan, item by item."""
    return tuple(rope for item in plan.items for rope in ropes(plan, item))
