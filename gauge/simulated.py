"""A stand-in for a gauge: the tongue of a haul while its machine moves, as a gauge shows it.

It has what real ones have: noise, steps, lag, a rating at which it shows no more, its own
unit, and a connection that drops. The truth behind it may differ from the plan.
"""

from __future__ import annotations

import json
import math
import random
import socket
import time
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any, Final

from gauge.wire import VERSION
from mechanics.coach import Advice, Gauge, Move, Shown, advise, band
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.units import M_PER_IN, MassUnit

CREEP_M_S: Final = 1.2 * M_PER_IN
"""A careful driver's last feet: little more than an inch a second."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Traits:
    """How a gauge reads: in its unit's steps, late, noisy, and up to its rating."""

    unit: str = "lb"
    step: float = 20.0
    rating: float = 2000.0
    lag_s: float = 0.4
    noise_kg: float = 3.0


@dataclass
class SimulatedGauge:
    """A haul's tongue under a gauge, with one item that moves along the deck.

    ``heavier`` and ``ahead_m`` make the true machine differ from the planned one.
    """

    plan: Plan
    index: int = 0
    traits: Traits = field(default_factory=Traits)
    seed: int = 1
    heavier: float = 1.0
    ahead_m: float = 0.0

    def __post_init__(self) -> None:
        item = self.plan.items[self.index]
        true = replace(
            item,
            mass_kg=item.mass_kg * self.heavier,
            cg=replace(item.cg, ahead_m=item.cg.ahead_m + self.ahead_m),
        )
        items = tuple(true if i is item else i for i in self.plan.items)
        self.truth = self.plan.carrying(items)
        self.position_m = item.placement.reference_m
        self.speed_m_s = 0.0
        self.rng = random.Random(self.seed)  # noqa: S311  noise of a stand-in, no secret
        self.number = 0
        self._felt = self.tongue_kg()

    def tongue_kg(self) -> float:
        """The true tongue with the machine where it stands."""
        item = self.truth.items[self.index]
        place = replace(item.placement, reference_m=self.position_m)
        return compute_loads(self.truth.with_placement(item.id, place)).trailer.tongue_kg

    def move(self, seconds: float) -> None:
        """Let time pass: the machine rolls, the gauge follows late."""
        self.position_m += self.speed_m_s * seconds
        part = 1.0 if not self.traits.lag_s else 1 - math.exp(-seconds / self.traits.lag_s)
        self._felt += (self.tongue_kg() - self._felt) * part

    def stand(self, reference_m: float) -> None:
        """Stand somewhere else at once, the gauge settled."""
        self.position_m, self.speed_m_s = reference_m, 0.0
        self._felt = self.tongue_kg()

    def reading(self) -> dict[str, Any]:
        """The line the gauge would send now."""
        unit = MassUnit(self.traits.unit).kg
        shown = (self._felt + self.rng.gauss(0, self.traits.noise_kg)) / unit
        load = round(shown / self.traits.step) * self.traits.step
        full = load >= self.traits.rating
        self.number += 1
        line: dict[str, Any] = {"n": self.number, "load": min(load, self.traits.rating)}
        return {**line, "full": True} if full else line

    def hello(self, key: str) -> dict[str, Any]:
        """The first line of a connection."""
        return {
            "eyebolt_gauge": VERSION,
            "key": key,
            "unit": self.traits.unit,
            "step": self.traits.step,
            "rating": self.traits.rating,
            "lag": self.traits.lag_s,
        }


class ObedientDriver:
    """A driver who does what the coach says, a moment late, and creeps.

    He starts some way off the aim, stops at "stop", waits, and tries again from elsewhere.
    """

    def __init__(
        self, gauge: SimulatedGauge, *, reaction_s: float = 0.4, rest_s: float = 12
    ) -> None:
        self.gauge = gauge
        self.reaction_s, self.rest_s = reaction_s, rest_s
        self.clock = 0.0
        self.readings: list[Shown] = []
        self.told: list[tuple[float, Move]] = []
        self.stood_since: float | None = None
        self._facts = Gauge(
            step_kg=gauge.traits.step * MassUnit(gauge.traits.unit).kg, lag_s=gauge.traits.lag_s
        )
        self._band = band(gauge.plan, gauge.index, self._facts)
        self.begin()

    def begin(self) -> None:
        """Stand a foot or two off, on one side or the other, inside the deck."""
        rng, deck = self.gauge.rng, self.gauge.plan.trailer.deck
        off = rng.choice((-1, 1)) * rng.uniform(12, 30) * M_PER_IN
        here = self.gauge.plan.items[self.gauge.index].placement.reference_m
        self.gauge.stand(min(max(here + off, 0.0), deck.length_m))
        self.readings, self.told, self.stood_since = [], [], None

    def see(self, line: dict[str, Any], seconds: float) -> Advice:
        """Take in a reading the gauge sent and act on what the coach makes of it."""
        self.clock += seconds
        kg = line["load"] * MassUnit(self.gauge.traits.unit).kg
        self.readings.append(Shown(at_s=self.clock, kg=kg, saturated=bool(line.get("full"))))
        del self.readings[:-60]
        advice = advise(self.readings, self._band, self._facts)
        self.told.append((self.clock, advice.move))
        heard = [move for at, move in self.told if at <= self.clock - self.reaction_s]
        self._drive(heard[-1] if heard else Move.WAIT)
        del self.told[:-60]
        return advice

    def _drive(self, move: Move) -> None:
        if move in (Move.REARWARD, Move.FORWARD):
            self.gauge.speed_m_s = CREEP_M_S if move is Move.REARWARD else -CREEP_M_S
            self.stood_since = None
            return
        self.gauge.speed_m_s = 0.0
        if self.stood_since is None:
            self.stood_since = self.clock
        elif self.clock - self.stood_since > self.rest_s:
            self.begin()


def as_line(document: dict[str, Any]) -> bytes:
    """A line of the protocol."""
    return json.dumps(document).encode() + b"\n"


class Slips:
    """A gauge that misbehaves now and then: rubbish, a flood, the other unit without a word."""

    def __init__(self, unit: str, *, every_s: float = 25.0) -> None:
        self.unit, self.every_s = unit, every_s
        self._begun = time.monotonic()

    def __call__(self, line: dict[str, Any]) -> bytes:
        since = time.monotonic() - self._begun
        turn, into = divmod(since, self.every_s)
        if into > 3.0 or since < self.every_s:
            return as_line(line)
        kind = int(turn) % 3
        if kind == 0:
            return b"\x00\x07?? 11" + as_line(line)
        if kind == 1:
            return as_line({"load": line["load"]}) * 30
        other = 0.45359237 if self.unit == "lb" else 1 / 0.45359237
        return as_line({**line, "load": round(line["load"] * other)})


def run(
    gauge: SimulatedGauge,
    *,
    host: str,
    port: int,
    key: str,
    after: Callable[[dict[str, Any], float], object],
    stop: Callable[[], bool],
    a_second: float = 8.0,
    gone: Callable[[], bool] = lambda: False,
    spoiled: Callable[[dict[str, Any]], bytes] = as_line,
) -> int:
    """Send readings until ``stop``; how many were sent. While ``gone`` the connection is down.

    ``spoiled`` may make something else of a line than what it says.

    A connection that cannot be made, or breaks, is tried again every second.
    """
    sent = 0
    wire: socket.socket | None = None
    last = time.monotonic()
    while not stop():
        time.sleep(1 / a_second)
        now = time.monotonic()
        seconds, last = now - last, now
        gauge.move(seconds)
        line = gauge.reading()
        if gone():
            _close(wire)
            wire = None
            after(line, seconds)
            continue
        try:
            if wire is None:
                wire = socket.create_connection((host, port), timeout=2)
                wire.sendall(as_line(gauge.hello(key)))
                answer = wire.makefile("rb").readline()
                if b'"ok"' not in answer:
                    raise RefusedError(answer.decode(errors="replace").strip())
            wire.sendall(spoiled(line))
            sent += 1
        except OSError:
            _close(wire)
            wire = None
            time.sleep(1)
        after(line, seconds)
    _close(wire)
    return sent


class RefusedError(Exception):
    """The hub does not take this gauge; the message is what it answered."""


def _close(wire: socket.socket | None) -> None:
    if wire is not None:
        wire.close()
