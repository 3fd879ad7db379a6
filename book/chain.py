"""The hitch chain of a truck and a trailer: which parts carry, and which is the weakest."""

from __future__ import annotations

from dataclasses import dataclass

from book.models import Hitch, HitchPart, Trailer
from measures import Quantity
from mechanics.limits import SAME_SIZE_M

FITS = {
    Hitch.Type.BALL: (HitchPart.Kind.BALL,),
    Hitch.Type.GOOSENECK: (HitchPart.Kind.GOOSENECK_BALL, HitchPart.Kind.BALL),
    Hitch.Type.FIFTH_WHEEL: (HitchPart.Kind.FIFTH_WHEEL,),
    Hitch.Type.PINTLE: (HitchPart.Kind.PINTLE,),
}
"""What the trailer is coupled to on each type of hitch."""


def couples(hitch: Hitch, trailer: Trailer) -> bool:
    """Whether the trailer can be coupled there at all: a fifth wheel's pin in its plate, a
    gooseneck over the bed, any other trailer behind the bumper.

    A gooseneck may also stand on a plate: some do, by an adapter.
    """
    if trailer.kind == Trailer.Kind.FIFTH_WHEEL:
        return hitch.type == Hitch.Type.FIFTH_WHEEL
    over_bed = hitch.type in (Hitch.Type.GOOSENECK, Hitch.Type.FIFTH_WHEEL)
    return over_bed == trailer.over_bed


def same_size(ball: Quantity, coupler: Quantity) -> bool:
    """Whether a ball is the one a coupler is made for."""
    return abs(float(ball.si - coupler.si)) <= SAME_SIZE_M


def coupler_size(trailer: Trailer) -> Quantity | None:
    """The ball that the trailer's coupler is made for; ``None`` where not known."""
    for link in trailer.links.all():
        if link.part.kind == HitchPart.Kind.COUPLER and link.part.ball_size is not None:
            size: Quantity = link.part.ball_size
            return size
    return None


@dataclass(frozen=True, kw_only=True, slots=True)
class Chain:
    """The parts in use, from the truck to the trailer.

    ``left_off`` are balls of other sizes that stay in the box. ``with_bars`` says that
    weight-distributing bars act, so that the second pair of ratings counts where given.
    """

    parts: tuple[HitchPart, ...]
    left_off: tuple[HitchPart, ...]
    ball_size: Quantity | None
    coupler_size: Quantity | None
    with_bars: bool

    @property
    def fits(self) -> bool | None:
        """Whether the ball is the one the coupler is made for; ``None`` where not known."""
        if self.ball_size is None or self.coupler_size is None:
            return None
        return same_size(self.ball_size, self.coupler_size)

    def trailer_rating(self, part: HitchPart) -> Quantity | None:
        """What a part may pull, as the hitch is used here."""
        own: Quantity | None = part.max_trailer_mass
        return (part.max_trailer_mass_wd if self.with_bars else None) or own

    def tongue_rating(self, part: HitchPart) -> Quantity | None:
        """What a part may carry, as the hitch is used here."""
        own: Quantity | None = part.max_tongue_mass
        return (part.max_tongue_mass_wd if self.with_bars else None) or own

    @property
    def weakest_trailer(self) -> HitchPart | None:
        """The part that limits the trailer's mass; the first of equals."""
        rated = [p for p in self.parts if self.trailer_rating(p) is not None]
        return min(rated, key=lambda p: self.trailer_rating(p).si, default=None)  # type: ignore[union-attr]

    @property
    def weakest_tongue(self) -> HitchPart | None:
        """The part that limits the tongue weight; the first of equals."""
        rated = [p for p in self.parts if self.tongue_rating(p) is not None]
        return min(rated, key=lambda p: self.tongue_rating(p).si, default=None)  # type: ignore[union-attr]

    def names(self) -> dict[int, str]:
        """What each part is called in a plan: its kind, or its name where that says more."""
        kinds = [part.kind for part in self.parts]
        return {
            part.pk: part.name
            if part.kind == HitchPart.Kind.OTHER or kinds.count(part.kind) > 1
            else str(part.get_kind_display())
            for part in self.parts
        }


def assemble(hitch: Hitch, trailer: Trailer | None) -> Chain:
    """The chain from what truck and trailer have.

    Of several balls on the hitch the one that fits the coupler is used, else the first;
    only one can be under the coupler at a time.
    """
    on_truck = [link.part for link in hitch.links.all()]
    on_trailer = [] if trailer is None else [link.part for link in trailer.links.all()]
    coupler = None if trailer is None else coupler_size(trailer)
    balls = [p for p in on_truck if p.kind in HitchPart.BALLS]
    used = _ball_for(balls, coupler)
    left_off = tuple(p for p in balls if p is not used)
    return Chain(
        parts=(*(p for p in on_truck if p not in left_off), *on_trailer),
        left_off=left_off,
        ball_size=None if used is None else used.ball_size,
        coupler_size=coupler,
        with_bars=hitch.front_axle_restoration is not None,
    )


def _ball_for(balls: list[HitchPart], coupler: Quantity | None) -> HitchPart | None:
    if coupler is not None:
        for ball in balls:
            if ball.ball_size is not None and same_size(ball.ball_size, coupler):
                return ball
    return balls[0] if balls else None
