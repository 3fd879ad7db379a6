"""Estimates against outfits built up from parts, whose true figures are known.

Source: ``trimesh``, a general mesh library, for what the parts weigh together and where they
balance (:mod:`validation.built`). Two proofs: the stated bands hold the truth of at least 19 in 20;
and of a thousand hauls of which such figures are hidden and estimated by the application itself,
what the sure window allows is safe with the true figures in at least 95 of 100.
"""

from __future__ import annotations

import random
from dataclasses import dataclass, replace
from typing import Any, Final

from django.test import TestCase

from book.estimates import axle_places, balance, deck_start, empty_mass, empty_tongue, whole_mass
from book.estimates import track_width as track_of
from book.figures import empty_axles
from book.models import Hitch, Known, Machine, Trailer, Truck
from book.tolerances import Tolerances
from hauls.compose import hitch_section, load_section, rules_section, trailer_section, truck_section
from hauls.loads import Load
from hauls.units import FileUnits
from measures import Quantity, UnitSystem
from mechanics.checks import Status
from mechanics.limits import Quantity as Compared
from mechanics.placing import moved
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.typical import BALL_BEHIND, FRONT_PART, OVER_BED_BEHIND, curb_kg, wheelbase_m
from mechanics.units import KG_PER_LB, M_PER_IN
from planfile import document
from planfile.draft import Draft
from validation.built import (
    MACHINES,
    TRAILERS,
    TRUCKS,
    TrueMachine,
    TrueTrailer,
    TrueTruck,
    machine,
    trailer,
    truck,
)
from yards.models import Yard

HAULS: Final = 1000
UNITS: Final = FileUnits.of(UnitSystem.US)


def lb(number: float) -> Quantity:
    """A mass as it is read off a plate."""
    return Quantity.parse(f"{number:.0f} lb")


def taped(number: float) -> Quantity:
    """A length as a tape reads, to the half inch."""
    return Quantity.parse(f"{round(number * 2) / 2:.10g} in")


@dataclass(frozen=True)
class Hidden:
    """What of an outfit nobody has measured."""

    truck_lengths: bool = True
    deck_and_axles: bool = True
    trailer_weights: bool = True
    machine_weight: bool = True
    balance: bool = True


class Yards(TestCase):
    """Entries of the book for built outfits, with what is hidden left empty."""

    def setUp(self) -> None:
        self.yard = Yard.objects.create(name="Built")

    def truck(self, true: TrueTruck, hidden: Hidden) -> Hitch:
        """The truck with its sticker, and its lengths if they were taped."""
        made = Truck.objects.create(
            yard=self.yard,
            name=f"T{Truck.objects.count()}",
            gvwr=lb(true.gvwr),
            payload=lb(true.payload),
            empty_from=Truck.EmptyFrom.STICKER,
            front_gawr=lb(0.55 * true.gvwr),
            rear_gawr=lb(0.66 * true.gvwr),
            gcwr=lb(2.4 * true.gvwr),
            max_trailer_mass=lb(1.5 * true.gvwr),
            wheelbase=None if hidden.truck_lengths else taped(true.wheelbase),
        )
        kind = Hitch.Type.GOOSENECK if true.over_bed else Hitch.Type.BALL
        place = None if hidden.truck_lengths else taped(true.ball)
        return Hitch.objects.create(truck=made, name="Hitch", type=kind, offset=place)

    def trailer(self, true: TrueTrailer, hidden: Hidden) -> Trailer:
        """The trailer with its plate, its deck, and what was taped or weighed of it."""
        made = Trailer.objects.create(
            yard=self.yard,
            name=f"T{Trailer.objects.count()}",
            kind=true.kind,
            gvwr=lb(true.gvwr),
            deck_length=taped(true.deck_length),
            deck_width=taped(true.deck_width),
            tail=true.tail,
            fenders="under" if true.under else "beside",
            deck_start=None if hidden.deck_and_axles else taped(true.deck_start),
            axles_at=None if hidden.deck_and_axles else taped(true.middle),
            empty_mass=None if hidden.trailer_weights else lb(true.mass),
            empty_tongue_mass=None if hidden.trailer_weights else lb(true.tongue),
        )
        for _ in true.axles:
            made.axles.create(gawr=lb(true.axle))
        return made

    def machine(self, true: TrueMachine, hidden: Hidden) -> Machine:
        """The machine with its brochure and its lengths, or weighed."""
        weighed: dict[str, Any] = {"mass": lb(true.brochure), "mass_known": Known.BROCHURE}
        if not hidden.machine_weight:
            weighed = {"mass": lb(true.mass), "mass_known": Known.WEIGHED}
        return Machine.objects.create(
            yard=self.yard,
            name=f"M{Machine.objects.count()}",
            shape=true.shape,
            hung=true.hung,
            hung_counted=true.counted,
            running=true.running,
            wheelbase=taped(true.wheelbase),
            reach_front=taped(true.front),
            reach_rear=taped(true.rear),
            balance_ahead=None if hidden.balance else taped(true.ahead),
            balance_known="axles",
            **weighed,
        )

    def plan(self, hitch: Hitch, made: Trailer, load: Machine) -> Plan:
        """The plan that the application makes of them."""
        placed = document.Placement(reference=float(load.reach_front.in_unit("in")))
        draft = Draft.bare(
            name="",
            units=UNITS,
            truck=truck_section(hitch.truck, hitch, UNITS),
            hitch=hitch_section(hitch, made, UNITS),
            trailer=trailer_section(made, UNITS),
            rules=rules_section(hitch),
        ).with_item(load_section(Load(machine=load), "m", UNITS, placed))
        return draft.plan


def true_plan(plan: Plan, built: tuple[TrueTruck, TrueTrailer, TrueMachine]) -> Plan:
    """The same haul with every figure as it truly is; one true driver of 180 lb."""
    pickup, carried, load = built
    (person,) = plan.truck.cargo
    base = pickup.wheelbase * M_PER_IN
    shift = carried.middle * M_PER_IN - plan.trailer.axle_centre_m
    trailer_true = replace(
        plan.trailer.with_axles_shifted(shift),
        empty_mass_kg=carried.mass * KG_PER_LB,
        empty_tongue_mass_kg=carried.tongue * KG_PER_LB,
        track_width_m=carried.track * M_PER_IN,
        deck=replace(plan.trailer.deck, start_m=carried.deck_start * M_PER_IN),
    )
    item = plan.items[0]
    return replace(
        plan,
        truck=replace(
            plan.truck,
            front_axle_mass_kg=pickup.front * KG_PER_LB,
            rear_axle_mass_kg=(pickup.curb - pickup.front) * KG_PER_LB,
            wheelbase_m=base,
            wheelbase_tolerance_m=0.0,
            hitch_offset_m=pickup.ball * M_PER_IN,
            cargo=(replace(person, mass_kg=180 * KG_PER_LB, ahead_of_rear_axle_m=0.45 * base),),
        ),
        trailer=trailer_true,
        items=(
            replace(
                item,
                mass_kg=load.mass * KG_PER_LB,
                cg=replace(item.cg, ahead_m=load.ahead * M_PER_IN),
            ),
        ),
    )


class Bands(Yards):
    def test_the_bands_hold_the_truth_of_nineteen_in_twenty(self) -> None:
        """Every figure that may be estimated, of every truck, trailer and machine of the lists."""
        inside: list[tuple[str, bool]] = []

        def held(what: str, least: float, truth: float, most: float) -> None:
            inside.append((what, least <= truth <= most))

        nothing = Hidden()
        for row in TRUCKS:
            pickup = truck(row)
            hitch = self.truck(pickup, nothing)
            empty = empty_axles(hitch.truck, Tolerances())
            curb, off = empty.front_kg + empty.rear_kg, empty.mass_tolerance_kg or 0.0
            held(f"{pickup.name}: curb", curb - off, pickup.curb * KG_PER_LB, curb + off)
            alone = curb_kg(pickup.gvwr * KG_PER_LB, None)
            held(f"{pickup.name}: part", alone.least, pickup.curb * KG_PER_LB, alone.most)
            share = pickup.front / pickup.curb
            held(f"{pickup.name}: front", FRONT_PART.least, share, FRONT_PART.most)
            base = wheelbase_m(pickup.gvwr * KG_PER_LB)
            held(f"{pickup.name}: base", base.least, pickup.wheelbase * M_PER_IN, base.most)
            ball = OVER_BED_BEHIND if pickup.over_bed else BALL_BEHIND
            held(f"{pickup.name}: ball", ball.least, pickup.ball * M_PER_IN, ball.most)
        for row in TRAILERS:
            carried = trailer(row)
            made = self.trailer(carried, nothing)
            for what, found, truth in (
                ("mass", empty_mass(made), carried.mass * KG_PER_LB),
                ("tongue", empty_tongue(made), carried.tongue * KG_PER_LB),
                ("deck", deck_start(made), carried.deck_start * M_PER_IN),
                ("track", track_of(made), carried.track * M_PER_IN),
            ):
                assert found is not None
                held(f"{carried.name}: {what}", found.least, truth, found.most)
            places = axle_places(made)
            assert places is not None
            held(
                f"{carried.name}: axles",
                places.middle - places.tolerance,
                carried.middle * M_PER_IN,
                places.middle + places.tolerance,
            )
        for row in MACHINES:
            load = machine(row)
            entry = self.machine(load, nothing)
            for what, found, truth in (
                ("mass", whole_mass(entry), load.mass * KG_PER_LB),
                ("balance", balance(entry), load.ahead * M_PER_IN),
            ):
                assert found is not None
                held(f"{load.name}: {what}", found.least, truth, found.most)
        outside = [what for what, ok in inside if not ok]
        self.assertGreater(len(inside), 120)
        self.assertLessEqual(len(outside), len(inside) / 20, outside)


class Hauls(Yards):
    def test_what_the_sure_window_allows_is_safe_with_the_true_figures(self) -> None:
        """A thousand hauls, parts of each outfit shaken, other figures hidden each time."""
        rng = random.Random(20261)
        sure = unsafe = 0
        for _ in range(HAULS):
            pickup, carried = truck(rng.choice(TRUCKS), rng), trailer(rng.choice(TRAILERS), rng)
            while pickup.over_bed != (carried.kind == "gooseneck"):
                pickup = truck(rng.choice(TRUCKS), rng)
            load = machine(rng.choice(MACHINES), rng)
            # the more is measured, the more often a place is sure: all of it hidden one in six
            hidden = Hidden() if rng.random() < 1 / 6 else _some(rng)
            plan = self.plan(
                self.truck(pickup, hidden),
                self.trailer(carried, hidden),
                self.machine(load, hidden),
            )
            pieces = evaluate(plan).windows[0].sure
            if not pieces:
                continue
            sure += 1
            true = true_plan(plan, (pickup, carried, load))
            unsafe += any(
                _passed(moved(true, 0, at))
                for piece in pieces
                for at in (piece.start_m, piece.end_m, (piece.start_m + piece.end_m) / 2)
            )
        self.assertGreater(sure, 100)
        self.assertLessEqual(unsafe, 0.05 * sure)


def _some(rng: random.Random) -> Hidden:
    return Hidden(
        truck_lengths=rng.random() < 0.5,
        deck_and_axles=rng.random() < 0.3,
        trailer_weights=rng.random() < 0.4,
        machine_weight=rng.random() < 0.5,
        balance=rng.random() < 0.4,
    )


def _passed(plan: Plan) -> bool:
    """Whether a limit of the true outfit is passed."""
    return any(
        check.status is Status.OVER and check.quantity is not Compared.LENGTH
        for check in evaluate(plan).checks
    )
