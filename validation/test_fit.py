"""Fits against a general optimiser, and by simulation.

Source: ``scipy.optimize.least_squares`` for the estimates, ``scipy.stats`` for the tail of
chi-square; the rest is arithmetic of chance over simulated sessions with known truth.
"""

from __future__ import annotations

import random
from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase
from scipy.optimize import least_squares
from scipy.stats import chi2

from mechanics.fit import (
    POUND,
    UNKNOWNS,
    Belief,
    Seen,
    Slip,
    What,
    chance_of_more,
    fit,
    predict,
    suspects,
)

INJECTED = (
    (0, "kg"),
    (2, "kg"),
    (3, "kg"),
    (0, "tape"),
    (1, "tape"),
    (6, "tape"),
    (4, "jack"),
    (2, "people"),
    (3, "people"),
)
"""Readings of a session by their place, and the slip that is made with each. A jack that still
carries is a slip of the scale under the coupler; with a machine on it looks just like a tape
at the wrong edge, and the tape is what is asked about first."""


def belief() -> Belief:
    """A tandem trailer and a tractor, as a book of middling care has them."""
    return Belief(
        trailer=(1315.0, 20.0),
        tongue=(172.0, 12.0),
        machine=(2427.0, 120.0),
        ahead=(0.762, 0.08),
        lever=(5.08, 0.01),
    )


def session(rng: random.Random, count: int = 7) -> tuple[list[float], list[Seen]]:
    """A truth drawn from the book's doubts, and honest readings of it."""
    book = belief()
    truth = [rng.gauss(v, d) for v, d in zip(book.values(), book.doubts(), strict=True)]
    unknown = np.array(truth)
    kinds = [What.TONGUE_LOADED, What.TONGUE_LOADED, What.TRAILER_LOADED, What.MACHINE]
    kinds += [What.TONGUE_EMPTY, What.AXLES_LOADED, What.TONGUE_LOADED]
    readings = []
    for n in range(count):
        what = kinds[n % len(kinds)]
        doubt = 6.0 if "TONGUE" in what.name else 9.0
        seen = Seen(
            what=what, kg=1.0, doubt=doubt, mark_m=rng.uniform(4.4, 5.6), name=f"reading {n + 1}"
        )
        value, _ = predict(unknown, seen)
        readings.append(replace(seen, kg=rng.gauss(value, doubt)))
    return truth, readings


class AgainstAnOptimiser(SimpleTestCase):
    def test_estimates_and_errors(self) -> None:
        book = belief()
        start, doubts = book.values(), book.doubts()
        for seed in range(25):
            _, readings = session(random.Random(seed))

            def off(unknown: np.ndarray, readings: list[Seen] = readings) -> np.ndarray:
                rows = [(s.kg - predict(unknown, s)[0]) / s.doubt for s in readings]
                return np.array([*rows, *((start - unknown) / doubts)])

            found = least_squares(off, start, x_scale=doubts, xtol=1e-14, ftol=1e-14, gtol=1e-14)
            ours = fit(readings, book)
            errors = np.sqrt(np.diag(np.linalg.inv(found.jac.T @ found.jac)))
            for name, one, two, error, theirs in zip(
                UNKNOWNS, ours.estimates, found.x, ours.errors, errors, strict=True
            ):
                with self.subTest(seed=seed, unknown=name):
                    self.assertAlmostEqual(one, two, delta=1e-4 * error)
                    self.assertAlmostEqual(error, theirs, delta=1e-3 * error)
            self.assertAlmostEqual(2 * found.cost, ours.chi_square, places=5)

    def test_the_tail_of_chi_square(self) -> None:
        for freedom in range(1, 40):
            for value in (0.1, 1.0, 5.0, 20.0, 60.0):
                self.assertAlmostEqual(chi2.sf(value, freedom), chance_of_more(value, freedom))


class BySimulation(SimpleTestCase):
    def test_the_stated_error_covers_as_often_as_it_says(self) -> None:
        """Over 2,000 sessions the truth lies within two-sided 95 % within 2 points of 95."""
        inside = dict.fromkeys(UNKNOWNS, 0)
        alarms = 0
        for seed in range(2000):
            truth, readings = session(random.Random(10_000 + seed))
            found = fit(readings, belief())
            alarms += found.contradict
            for name, value, estimate, error in zip(
                UNKNOWNS, truth, found.estimates, found.errors, strict=True
            ):
                inside[name] += abs(value - estimate) <= 1.959964 * error
        for name, count in inside.items():
            with self.subTest(unknown=name):
                self.assertAlmostEqual(0.95, count / 2000, delta=0.02)
        self.assertLess(alarms / 2000, 0.05)

    def test_injected_slips_are_named_first(self) -> None:
        named = tried = 0
        for seed in range(240):
            rng = random.Random(50_000 + seed)
            _, readings = session(rng)
            place, slip = rng.choice(INJECTED)
            seen = readings[place]
            if slip == "kg":
                wrong, right = replace(seen, kg=seen.kg * POUND), Slip.KG_FOR_LB
            elif slip == "tape":
                shift = rng.choice((-1, 1)) * rng.uniform(0.35, 0.8)
                wrong, right = replace(seen, mark_m=seen.mark_m + shift), Slip.TAPE_EDGE
            elif slip == "jack":
                wrong, right = replace(seen, kg=seen.kg * rng.uniform(0.05, 0.38)), Slip.JACK
            else:
                people = rng.choice((-1, 1)) * rng.uniform(75, 200)
                wrong, right = replace(seen, kg=seen.kg + people), Slip.PEOPLE
            readings[place] = wrong
            tried += 1
            found = suspects(readings, belief())
            named += bool(found) and found[0].place == place and found[0].slip is right
        self.assertGreaterEqual(named / tried, 0.9, f"{named} of {tried}")

    def test_honest_readings_accuse_nobody(self) -> None:
        accused = sum(
            bool(suspects(session(random.Random(90_000 + seed))[1], belief()))
            for seed in range(400)
        )
        self.assertLess(accused / 400, 0.05)

    def test_slips_at_the_coupler_are_named_first(self) -> None:
        """A jack that still carries, and a scale under the jack that was entered as under the
        ball: empty or with the machine on, of trailers whose book was weighed."""
        book = replace(belief(), tongue=(172.0, 5.0))
        named: dict[str, int] = {}
        tried: dict[str, int] = {}
        for seed in range(300):
            rng = random.Random(70_000 + seed)
            _, readings = session(rng)
            readings = [replace(s, at_coupler="TONGUE" in s.what.name) for s in readings]
            kind, place = rng.choice((("jack", 4), ("jack", 0), ("spot", 1), ("spot", 6)))
            seen = readings[place]
            if kind == "jack":
                wrong, right = replace(seen, kg=seen.kg * rng.uniform(0.05, 0.7)), Slip.JACK
            else:
                behind = rng.uniform(0.3, 0.9)
                shown = seen.kg * 5.08 / (5.08 - behind)
                wrong, right = replace(seen, kg=shown), Slip.UNDER_JACK
            readings[place] = wrong
            found = suspects(readings, book)
            tried[kind] = tried.get(kind, 0) + 1
            named[kind] = named.get(kind, 0) + (
                bool(found) and found[0].place == place and found[0].slip is right
            )
        for kind, count in tried.items():
            with self.subTest(slip=kind):
                self.assertGreaterEqual(named[kind] / count, 0.8, f"{named[kind]} of {count}")
