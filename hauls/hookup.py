"""What has to be done at the coupling before the outfit moves, from this outfit."""

from __future__ import annotations

from collections.abc import Iterator

from measures.writing import UnitSystem, write_length
from mechanics.hitch import HitchType
from mechanics.plan import Plan
from planfile.draft import Draft

COUPLED = {
    HitchType.BALL: "Latch closed and pinned; hand under the ball: no gap",
    HitchType.GOOSENECK: "Coupler latched and pinned on the ball in the bed, ball locked down",
    HitchType.FIFTH_WHEEL: "Jaws round the pin, handle in and pinned, no gap above the plate",
    HitchType.PINTLE: "Eye in the pintle, jaw closed, latched and pinned",
}
"""How each kind of coupling is looked over. Common practice, no source."""

CHAINED = {
    HitchType.BALL: "Chains crossed under the tongue",
    HitchType.GOOSENECK: "Chains to both rings of the bed",
    HitchType.PINTLE: "Chains crossed under the tongue",
}
"""Where the chains go; a pin that locks in jaws has none as a rule."""

TAILS = {
    "gate": "Gate shut and pinned",
    "ramps": "Ramps up and pinned",
    "tilts": "Deck down and locked",
}
"""By how the tail is closed."""


def hookup(draft: Draft, unit: UnitSystem) -> tuple[str, ...]:
    """What to do and look at, in the order of a walk from the ball back."""
    return tuple(_lines(draft, draft.plan, unit))


def _lines(draft: Draft, plan: Plan, unit: UnitSystem) -> Iterator[str]:
    kind = plan.hitch.type
    yield from _ball(plan, unit)
    yield COUPLED[kind]
    chains, braked = CHAINED.get(kind, ""), not draft.unbraked
    if chains:
        yield f"{chains}, breakaway cable on" if braked else chains
    elif braked:
        yield "Breakaway cable on"
    if plan.hitch.weight_distribution is not None:
        yield "Spring bars hung and pinned"
    yield "Plug in, jack all the way up, chocks away"
    tail = TAILS.get(draft.look.tail)
    if tail:
        yield tail
    yield (
        "Lights on both sides, brake lights" if not braked else "Lights on both sides, brakes bite"
    )
    yield "Tires cold against the plate, wheel nuts, spare with air"


def _ball(plan: Plan, unit: UnitSystem) -> Iterator[str]:
    """The size that has to be read on ball and coupler, where they meet on a ball."""
    if plan.hitch.type not in (HitchType.BALL, HitchType.GOOSENECK):
        return
    size = plan.trailer.coupler_size_m or plan.hitch.ball_diameter_m
    if size is None:
        yield "Ball and coupler of one size: read it on both"
    else:
        yield f"{write_length(size, unit, step=16)} read on ball and coupler"
