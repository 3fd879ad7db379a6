"""A day's plan against trying everything, against a simple way to plan, and its own promises."""

from __future__ import annotations

import random
import unittest
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import permutations, product

from mechanics.dispatch import Busy, Day, Driver, Locked, Outfit, Proposal, Transfer, Why, propose
from mechanics.dispatch.routes import Pairs, routes
from mechanics.errors import InputError

KM_MIN = 1000.0
"""Metres a minute, so that a kilometre is a minute."""

SLOT = 30


@dataclass(frozen=True)
class ByMass:
    """Machines fit by their mass alone, unless each of two has to come off before the other."""

    mass: dict[str, float]
    holds: dict[str, float]
    hopeful: float = 1.0

    def hope(self, outfit: str, aboard: tuple[str, ...]) -> float | None:
        left = 1 - sum(self.mass[one] for one in aboard) / self.holds[outfit] / self.hopeful
        return None if left < 0 else left

    def reserve(self, outfit: str, aboard: tuple[str, ...], comes_off: Pairs) -> float | None:
        if any((b, a) in comes_off for a, b in comes_off):
            return None
        left = 1 - sum(self.mass[one] for one in aboard) / self.holds[outfit]
        return None if left < 0 else round(left, 9)


def some_day(rng: random.Random, count: int, outfits: int, drivers: int) -> tuple[Day, ByMass]:
    """A day by chance, all times in half hours."""
    places = ["home", "A", "B", "C"]
    ways = {
        (one, other): rng.randint(1, 3) * SLOT * KM_MIN
        for one in places
        for other in places
        if one != other and rng.random() > 0.05
    }
    transfers = []
    for n in range(count):
        origin, goal = rng.sample(places, 2) if rng.random() < 0.6 else ("home", rng.choice("ABC"))
        transfers.append(
            Transfer(
                id=f"m{n}",
                origin=origin,
                goal=goal,
                earliest=rng.choice([0, 0, 0, 9 * 60]),
                due=rng.choice([24 * 60] * 3 + [10 * 60, 12 * 60]),
                on_min=SLOT,
                off_min=rng.choice([0, SLOT]),
                outfits=frozenset({"o0"}) if rng.random() < 0.1 else None,
            )
        )
    day = Day(
        home="home",
        transfers=tuple(transfers),
        outfits=tuple(
            Outfit(id=f"o{n}", truck=f"truck{rng.randint(0, n)}", trailer=f"trailer{n}")
            for n in range(outfits)
        ),
        drivers=tuple(
            Driver(
                id=f"d{n}",
                starts=7 * 60,
                ends=rng.choice([11, 13, 17]) * 60,
                outfits=frozenset({f"o{rng.randint(0, outfits - 1)}"})
                if rng.random() < 0.3
                else None,
            )
            for n in range(drivers)
        ),
        ways=ways,
        speed=KM_MIN,
        busy=(Busy(who="truck0", starts=8 * 60, ends=9 * 60),) if rng.random() < 0.3 else (),
    )
    mass = {one.id: float(rng.randint(1, 6)) for one in transfers}
    holds = {f"o{n}": float(rng.randint(3, 9)) for n in range(outfits)}
    return day, ByMass(mass, holds, hopeful=rng.choice([1.0, 1.3]))


# ── trying everything ────────────────────────────────────────────────────────────────────────


@dataclass(frozen=True)
class Drive:
    outfit: Outfit
    metres: float
    reserve: float
    minutes: float
    on_at: tuple[tuple[float, float], ...]
    """When each window begins and what it wants, from leaving: (offset, not before)."""
    off_at: tuple[tuple[float, float], ...]


def drives(day: Day, rides: ByMass, trip: Sequence[Transfer], outfit: Outfit) -> Iterator[Drive]:
    """Every order of events, place by place; no word of the planner's own enumeration."""
    if any(one.outfits is not None and outfit.id not in one.outfits for one in trip):
        return
    events = [(kind, n) for n in range(len(trip)) for kind in ("on", "off")]
    for order in permutations(events):
        at = {event: n for n, event in enumerate(order)}
        if any(at["on", n] > at["off", n] for n in range(len(trip))):
            continue
        where = [trip[n].origin if kind == "on" else trip[n].goal for kind, n in order]
        visits: list[int] = []
        for n in range(len(order)):
            visits.append(visits[-1] + (where[n] != where[n - 1]) if n else 0)
        # home again in the middle, with something still to do, is another trip
        if any(place == "home" and 0 < visits[n] < visits[-1] for n, place in enumerate(where)):
            continue
        if any(
            place == "home" and visits[n] == visits[-1] > 0 and order[n][0] == "on"
            for n, place in enumerate(where)
        ):
            continue
        # whoever calls at a machine's goal with it aboard takes it off there
        if any(
            visits[at["on", m]] < visits[n] < visits[at["off", m]] and where[n] == trip[m].goal
            for n in range(len(order))
            for m in range(len(trip))
        ):
            continue
        clock, metres, here, least, all_off = 0.0, 0.0, "home", 10.0, 0.0
        aboard: list[int] = []
        on_at, off_at = [], []
        fine = True
        for n, (kind, who) in enumerate(order):
            if where[n] != here:
                far = day.metres(here, where[n])
                if far is None:
                    fine = False
                    break
                if aboard:
                    pairs = [
                        (trip[a].id, trip[b].id)
                        for a in aboard
                        for b in aboard
                        if a != b
                        and (
                            visits[at["off", a]] < visits[at["off", b]]
                            or visits[at["on", a]] > visits[at["on", b]]
                        )
                    ]
                    ids = tuple(sorted(trip[a].id for a in aboard))
                    left = rides.reserve(outfit.id, ids, tuple(pairs))
                    if left is None:
                        fine = False
                        break
                    least = min(least, left)
                metres, clock, here = metres + far, clock + far / day.speed, where[n]
            if n == 0 or visits[n] != visits[n - 1]:
                off = sum(
                    trip[m].off_min
                    for (does, m), visit in zip(order, visits, strict=True)
                    if visit == visits[n] and does == "off"
                )
                all_off = clock + off
            if kind == "on":
                on_at.append((all_off, float(trip[who].earliest)))
                clock += trip[who].on_min
                aboard.append(who)
            else:
                clock += trip[who].off_min
                off_at.append((all_off, float(trip[who].due)))
                aboard.remove(who)
        back = day.metres(here, "home")
        if fine and back is not None:
            yield Drive(
                outfit, metres + back, least, clock + back / day.speed, tuple(on_at), tuple(off_at)
            )


def fits(day: Day, chosen: Sequence[Drive]) -> bool:
    """Whether trips go into the day: every driver and every half hour is tried."""

    def go(n: int, taken: list[tuple[str, float, float]]) -> bool:
        if n == len(chosen):
            return True
        drive = chosen[n]
        for driver in day.drivers:
            if not driver.may(drive.outfit.id):
                continue
            start = float(driver.starts)
            while start + drive.minutes <= driver.ends:
                whos = (drive.outfit.truck, drive.outfit.trailer, driver.id)
                free = all(
                    who not in whos or start + drive.minutes <= begins or ends <= start
                    for who, begins, ends in taken
                )
                ready = all(start + at >= earliest for at, earliest in drive.on_at)
                timely = all(start + at <= due for at, due in drive.off_at)
                if free and ready and timely:
                    new = [(who, start, start + drive.minutes) for who in whos]
                    if go(n + 1, taken + new):
                        return True
                start += SLOT
        return False

    return go(0, [(one.who, one.starts, one.ends) for one in day.busy])


def blocks(things: Sequence[Transfer], most: int) -> Iterator[list[list[Transfer]]]:
    """Every way to make trips of some of them."""
    if not things:
        yield []
        return
    first, *rest = things
    for others in blocks(rest, most):
        yield others
        yield [[first], *others]
        for n, block in enumerate(others):
            if len(block) < most:
                yield [*others[:n], [first, *block], *others[n + 1 :]]


Goal = tuple[int, int, float, float]


def tried(day: Day, rides: ByMass) -> Goal:
    """The best by trying everything: machines left, trips, metres, reserve taken negative."""
    best: Goal = (len(day.transfers), 0, 0.0, -10.0)
    kept: dict[tuple[str, ...], list[Drive]] = {}
    for plan in blocks(day.transfers, day.most):
        left = len(day.transfers) - sum(map(len, plan))
        if (left, len(plan)) > best[:2]:
            continue
        options = []
        for block in plan:
            key = tuple(one.id for one in block)
            if key not in kept:
                found = [one for o in day.outfits for one in drives(day, rides, block, o)]
                kept[key] = sorted(set(found), key=lambda one: (one.metres, -one.reserve))
            options.append(kept[key])
        for chosen in product(*options):
            metres = sum(one.metres for one in chosen)
            reserve = min((one.reserve for one in chosen), default=10.0)
            goal = (left, len(plan), metres, -reserve)
            if goal < best and fits(day, chosen):
                best = goal
    return best


def reached(found: Proposal) -> Goal:
    """The same of a proposal."""
    reserve = 10.0 if found.reserve is None else found.reserve
    return len(found.left), len(found.trips), round(found.metres, 3), -reserve


class Everything(unittest.TestCase):
    def test_two_hundred_small_days_are_planned_as_well_as_by_trying_everything(self) -> None:
        left = trips = together = 0
        for seed in range(200):
            rng = random.Random(seed)
            day, rides = some_day(rng, rng.randint(1, 3), rng.randint(1, 2), rng.randint(1, 2))
            found = propose(day, rides)
            with self.subTest(seed=seed):
                best = tried(day, rides)
                self.assertEqual(reached(found)[:3], best[:3])
                self.assertAlmostEqual(reached(found)[3], best[3], places=5)
                self.assertTrue(found.proved)
                check(self, day, rides, found)
            left += len(found.left)
            trips += len(found.trips)
            together += sum(len(trip.transfers) > 1 for trip in found.trips)
        # days in which nothing is at stake would prove nothing
        self.assertGreater(left, 40)
        self.assertGreater(trips, 150)
        self.assertGreater(together, 30)


def check(case: unittest.TestCase, day: Day, rides: ByMass, found: Proposal) -> None:
    """Whether a proposal keeps its own promises."""
    taken = [key for trip in found.trips for key in trip.transfers]
    case.assertEqual(len(taken), len(set(taken)))
    case.assertEqual(set(taken) | {key for key, _ in found.left}, {t.id for t in day.transfers})
    outfits = {one.id: one for one in day.outfits}
    drivers = {one.id: one for one in day.drivers}
    times: list[tuple[str, int, int]] = [(b.who, b.starts, b.ends) for b in day.busy]
    for trip in found.trips:
        outfit, driver = outfits[trip.outfit], drivers[trip.turn.driver]
        case.assertTrue(driver.may(trip.outfit))
        case.assertGreaterEqual(trip.turn.starts, driver.starts)
        case.assertLessEqual(trip.turn.ends, driver.ends)
        for leg in trip.route.loaded:
            left = rides.reserve(trip.outfit, leg.aboard, leg.comes_off)
            case.assertIsNotNone(left)
            case.assertGreaterEqual(left or 0.0, trip.reserve - 1e-9)
        for stop in trip.route.stops:
            for key in stop.off:
                one = day.transfer(key)
                case.assertEqual(stop.place, one.goal)
                all_off = stop.after_min + sum(day.transfer(k).off_min for k in stop.off)
                case.assertLessEqual(trip.turn.starts + all_off, one.due)
            for key in stop.on:
                one = day.transfer(key)
                case.assertEqual(stop.place, one.origin)
                all_off = stop.after_min + sum(day.transfer(k).off_min for k in stop.off)
                case.assertGreaterEqual(trip.turn.starts + all_off, one.earliest)
        whos = (outfit.truck, outfit.trailer, driver.id)
        times += [(who, trip.turn.starts, trip.turn.ends) for who in whos]
    for n, (who, starts, ends) in enumerate(times):
        for other, begins, over in times[n + 1 :]:
            case.assertTrue(who != other or ends <= begins or over <= starts)


# ── a simple way to plan ─────────────────────────────────────────────────────────────────────


def simply(day: Day, rides: ByMass) -> Goal:
    """One machine after the other onto the first trip that takes it, else onto a new one."""
    trips: list[tuple[list[Transfer], Drive]] = []
    left = 0

    def best(block: list[Transfer], others: list[Drive]) -> Drive | None:
        for outfit in day.outfits:
            found = sorted(drives(day, rides, block, outfit), key=lambda one: one.metres)
            for one in found[:3]:
                if fits(day, [*others, one]):
                    return one
        return None

    for one in sorted(day.transfers, key=lambda t: t.due):
        for n, (block, _) in enumerate(trips):
            others = [drive for m, (_, drive) in enumerate(trips) if m != n]
            if len(block) < day.most and (drive := best([*block, one], others)) is not None:
                trips[n] = ([*block, one], drive)
                break
        else:
            drive = best([one], [drive for _, drive in trips])
            if drive is None:
                left += 1
            else:
                trips.append(([one], drive))
    return left, len(trips), sum(drive.metres for _, drive in trips), 0.0


class Simply(unittest.TestCase):
    def test_fifty_large_days_are_never_planned_worse_than_simply(self) -> None:
        better = 0
        for seed in range(50):
            rng = random.Random(1000 + seed)
            day, rides = some_day(rng, 7, 2, 2)
            day = replace_most(day, 2)
            found = propose(day, rides)
            simple = simply(day, rides)
            with self.subTest(seed=seed):
                self.assertLessEqual(reached(found)[:2], simple[:2])
                if reached(found)[:2] == simple[:2] and found.way_proved:
                    self.assertLessEqual(reached(found)[2], simple[2] + 1)
                check(self, day, rides, found)
            better += reached(found)[:3] < simple[:3]
        self.assertGreater(better, 10)


def replace_most(day: Day, most: int) -> Day:
    """The same day with another number of machines to a trip."""
    fields = {name: getattr(day, name) for name in Day.__dataclass_fields__}
    return Day(**{**fields, "most": most})


# ── what is said ─────────────────────────────────────────────────────────────────────────────


def plain_day(*transfers: Transfer, **more: object) -> Day:
    """One truck and trailer, one driver from 7 to 17, two places 30 minutes away."""
    given: dict[str, object] = {
        "home": "home",
        "transfers": transfers,
        "outfits": (Outfit(id="o", truck="t", trailer="r"),),
        "drivers": (Driver(id="d", starts=420, ends=1020),),
        "ways": {
            (a, b): 30 * KM_MIN for a in ("home", "A", "B") for b in ("home", "A", "B") if a != b
        },
        "speed": KM_MIN,
    }
    return Day(**{**given, **more})  # type: ignore[arg-type]


def moved(key: str, origin: str = "home", goal: str = "A", **more: object) -> Transfer:
    return Transfer(id=key, origin=origin, goal=goal, on_min=30, off_min=15, **more)  # type: ignore[arg-type]


LIGHT = ByMass({"x": 1, "y": 1, "z": 1}, {"o": 10, "p": 10})


class Reasons(unittest.TestCase):
    def why(self, day: Day, rides: ByMass = LIGHT) -> dict[str, Why]:
        return dict(propose(day, rides).left)

    def test_each_reason_is_told(self) -> None:
        self.assertEqual(self.why(plain_day(moved("x", goal="nowhere"))), {"x": Why.NO_WAY})
        heavy = ByMass({"x": 11}, {"o": 10})
        self.assertEqual(self.why(plain_day(moved("x")), heavy), {"x": Why.NO_OUTFIT})
        nobody = plain_day(
            moved("x"), drivers=(Driver(id="d", starts=0, ends=900, outfits=frozenset()),)
        )
        self.assertEqual(self.why(nobody), {"x": Why.NO_DRIVER})
        self.assertEqual(self.why(plain_day(moved("x", due=430))), {"x": Why.NO_TIME})
        short = plain_day(
            moved("x"),
            moved("y", goal="B"),
            drivers=(Driver(id="d", starts=420, ends=540),),
            most=1,
        )
        self.assertEqual(list(self.why(short).values()), [Why.FULL])

    def test_out_and_back_in_one_trip(self) -> None:
        found = propose(plain_day(moved("x"), moved("y", "A", "home")), LIGHT)
        self.assertEqual(len(found.trips), 1)
        route = found.trips[0].route
        self.assertEqual([leg.aboard for leg in route.legs], [("x",), ("y",)])
        self.assertEqual(route.metres, 60 * KM_MIN)
        self.assertEqual([stop.place for stop in route.stops], ["home", "A", "home"])

    def test_what_is_brought_first_comes_off_first(self) -> None:
        found = propose(plain_day(moved("x"), moved("y", goal="B")), LIGHT)
        first = found.trips[0].route.legs[0]
        brought = [key for stop in found.trips[0].route.stops for key in stop.off]
        self.assertEqual(first.comes_off, (tuple(brought),))

    def test_what_is_decided_is_kept(self) -> None:
        two = (Outfit(id="o", truck="t", trailer="r"), Outfit(id="p", truck="u", trailer="s"))
        lock = Locked(transfers=frozenset({"x"}), outfit="p")
        day = plain_day(moved("x"), moved("y"), outfits=two, locked=(lock,))
        found = propose(day, LIGHT)
        self.assertIn(("p", frozenset({"x"})), {(t.outfit, t.transfers) for t in found.trips})
        self.assertEqual(len(found.trips), 2)
        cannot = plain_day(
            moved("x", due=430),
            moved("y"),
            locked=(Locked(transfers=frozenset({"x"}), outfit="o"),),
        )
        self.assertEqual(self.why(cannot), {"x": Why.LOCKED, "y": Why.LOCKED})

    def test_another_plan_is_another_and_no_better(self) -> None:
        two = (Outfit(id="o", truck="t", trailer="r"), Outfit(id="p", truck="u", trailer="s"))
        day = plain_day(moved("x"), moved("y", goal="B"), outfits=two)
        first = propose(day, LIGHT)
        have = [(trip.outfit, trip.transfers) for trip in first.trips]
        second = propose(day, LIGHT, unlike=[have])
        self.assertNotEqual(set(have), {(trip.outfit, trip.transfers) for trip in second.trips})
        self.assertGreaterEqual(reached(second), reached(first))

    def test_without_time_it_says_what_is_not_proved(self) -> None:
        day = plain_day(moved("x"), moved("y", goal="B"), moved("z", goal="B"))
        looks = iter([9.0] * 12)
        found = propose(day, LIGHT, left=lambda: next(looks, 0.0))
        self.assertFalse(found.proved)
        check(self, day, LIGHT, found)
        self.assertLessEqual(found.least_left, len(found.left))

    def test_bad_days_are_refused(self) -> None:
        with self.assertRaises(InputError):
            plain_day(moved("x"), moved("x"))
        with self.assertRaises(InputError):
            plain_day(speed=0.0)
        with self.assertRaises(KeyError):
            plain_day().transfer("x")

    def test_nobody_drives_past_a_goal_or_home(self) -> None:
        day = plain_day(moved("x"), moved("y"), moved("z", goal="B"))
        for route in routes(day, day.transfers):
            places = [stop.place for stop in route.stops]
            self.assertNotIn("home", places[1:])
            self.assertTrue(all(stop.on or stop.off for stop in route.stops))
