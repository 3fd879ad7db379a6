"""Flags of the law against worked cases, each from the rule's own words.

Sources, all from memory, as of 2025: 49 CFR 383.5, 390.5, 393.42, 393.43, 393.87, 393.130; 23 CFR
658.15; provinces of Canada with the 4,600 kg endorsement and the National Safety Code; Directive
2006/126/EC article 4, Regulation (EC) 561/2006 article 2, Directive 96/53/EC, UN Regulation 13; for
Great Britain the licence categories since December 2021 and the Construction and Use Regulations
1986.
"""

from __future__ import annotations

from typing import Any, Final

from django.test import SimpleTestCase

from mechanics.law import OnTheRoad, Standing, flags
from mechanics.units import KG_PER_LB, M_PER_FT, M_PER_IN
from wording.law import LAWS


def lb(pounds: float) -> float:
    return pounds * KG_PER_LB


def us(truck: float, trailer: float, weighs: float, **more: Any) -> dict[str, Any]:
    """An outfit by its plates and what the trailer weighs, in pounds; the truck weighs 7,000."""
    return {
        "truck_plate_kg": lb(truck),
        "trailer_plate_kg": lb(trailer),
        "truck_empty_kg": lb(7000),
        "trailer_kg": lb(weighs),
        "together_kg": lb(7000 + weighs),
        **more,
    }


def metric(truck: float, trailer: float, weighs: float, **more: Any) -> dict[str, Any]:
    """The same in kilograms; the car weighs 2,000 ready to drive."""
    return {
        "truck_plate_kg": truck,
        "trailer_plate_kg": trailer,
        "truck_empty_kg": 1925.0,
        "trailer_kg": weighs,
        "together_kg": 2000.0 + weighs,
        **more,
    }


CASES: Final[tuple[tuple[str, str, dict[str, Any], str, Standing], ...]] = (
    # 390.5: 10,001 lb of gross combination rating or weight, whichever is greater
    (
        "half-ton and 3,000 lb trailer",
        "us",
        us(7000, 3000, 2500),
        "us.commercial_vehicle",
        Standing.CLEAR,
    ),
    ("one pound more", "us", us(7001, 3000, 2500), "us.commercial_vehicle", Standing.RAISED),
    (
        *("plates below, scale above", "us"),
        *(us(7000, 3000, 3500), "us.commercial_vehicle", Standing.RAISED),
    ),
    # 383.5 group A: 26,001 lb together with a towed unit of more than 10,000 lb
    (
        "one-ton and 12,000 lb",
        "us",
        us(14000, 12000, 11000),
        "us.commercial_licence",
        Standing.CLEAR,
    ),
    (
        "one-ton and 14,000 lb",
        "us",
        us(14000, 14000, 13000),
        "us.commercial_licence",
        Standing.RAISED,
    ),
    (
        "big truck, small trailer",
        "us",
        us(25900, 10000, 9000),
        "us.commercial_licence",
        Standing.CLEAR,
    ),
    ("just past it", "us", us(16000, 10001, 9000), "us.commercial_licence", Standing.RAISED),
    ("26,000 lb together", "us", us(14000, 12000, 12000), "us.commercial_licence", Standing.CLEAR),
    # group B: the truck by itself
    ("truck of 26,001 lb", "us", us(26001, 3000, 2000), "us.heavy_truck_licence", Standing.RAISED),
    ("truck of 26,000 lb", "us", us(26000, 3000, 2000), "us.heavy_truck_licence", Standing.CLEAR),
    # 393.42 and 393.43: brakes on all wheels but of trailers of 3,000 lb or less
    ("3,000 lb without", "us", us(7000, 3000, 3000, braked=False), "us.brakes", Standing.CLEAR),
    ("3,500 lb without", "us", us(7000, 3500, 3500, braked=False), "us.brakes", Standing.RAISED),
    ("3,500 lb with", "us", us(7000, 3500, 3500, braked=True), "us.brakes", Standing.CLEAR),
    ("nobody knows", "us", us(7000, 3500, 3500, braked=None), "us.brakes", Standing.UNKNOWN),
    ("breakaway", "us", us(7000, 7000, 5000), "us.breakaway", Standing.RAISED),
    # 658.15 and 393.87
    ("102 in", "us", us(7000, 7000, 5000, width_m=102 * M_PER_IN), "us.width", Standing.CLEAR),
    ("104 in", "us", us(7000, 7000, 5000, width_m=104 * M_PER_IN), "us.width", Standing.RAISED),
    (
        "4 ft back",
        "us",
        us(7000, 7000, 5000, past_tail_m=4 * M_PER_FT),
        "us.past_tail",
        Standing.CLEAR,
    ),
    (
        *("4 ft 2 in back", "us"),
        *(us(7000, 7000, 5000, past_tail_m=50 * M_PER_IN), "us.past_tail", Standing.RAISED),
    ),
    (
        *("5 in to the side", "us"),
        *(us(7000, 7000, 5000, past_side_m=5 * M_PER_IN), "us.past_side", Standing.RAISED),
    ),
    # 393.130: machines of 10,000 lb or more
    (
        "10,000 lb dozer",
        "us",
        us(14000, 14000, 13000, heaviest_kg=lb(10000)),
        "us.heavy_machine",
        Standing.RAISED,
    ),
    (
        "9,900 lb loader",
        "us",
        us(14000, 14000, 13000, heaviest_kg=lb(9900)),
        "us.heavy_machine",
        Standing.CLEAR,
    ),
    # Canada: by what is registered, whatever it weighs today
    ("4,600 kg registered", "ca", metric(4500, 4600, 4500), "ca.trailer_licence", Standing.CLEAR),
    (
        "4,990 kg, nearly empty",
        "ca",
        metric(4500, 4990, 1500),
        "ca.trailer_licence",
        Standing.RAISED,
    ),
    ("4,500 kg together", "ca", metric(3000, 1500, 1200), "ca.commercial_vehicle", Standing.CLEAR),
    ("4,600 kg together", "ca", metric(3100, 1500, 1200), "ca.commercial_vehicle", Standing.RAISED),
    # the Union: B to 3,500 kg together past 750 kg, B96 to 4,250 kg, then BE, C1E past 3,500 kg
    ("750 kg behind 3,500 kg", "eu", metric(3500, 750, 700), "eu.b96", Standing.CLEAR),
    ("1,500 kg behind 2,000 kg", "eu", metric(2000, 1500, 1400), "eu.b96", Standing.CLEAR),
    ("1,600 kg behind 2,000 kg", "eu", metric(2000, 1600, 1400), "eu.b96", Standing.RAISED),
    ("4,250 kg together", "eu", metric(2250, 2000, 1800), "eu.be", Standing.CLEAR),
    ("5,500 kg together", "eu", metric(2500, 3000, 2800), "eu.be", Standing.RAISED),
    ("3,500 kg trailer", "eu", metric(2500, 3500, 3000), "eu.heavy_trailer", Standing.CLEAR),
    ("5,000 kg trailer", "eu", metric(3500, 5000, 4500), "eu.heavy_trailer", Standing.RAISED),
    ("tachograph at 3,500 kg", "eu", metric(2000, 1500, 1400), "eu.tachograph", Standing.CLEAR),
    ("tachograph past it", "eu", metric(2000, 2000, 1400), "eu.tachograph", Standing.RAISED),
    ("2.60 m", "eu", metric(2000, 1500, 1400, width_m=2.6), "eu.width", Standing.RAISED),
    # unbraked: no more than half of the car ready to drive
    (
        "750 kg behind 2,000 kg",
        "eu",
        metric(2500, 750, 750, braked=False),
        "eu.half_the_car",
        Standing.CLEAR,
    ),
    (
        "1,100 kg unbraked",
        "eu",
        metric(2500, 750, 1100, braked=False),
        "eu.half_the_car",
        Standing.RAISED,
    ),
    # Great Britain: 3,500 kg trailers with category B since December 2021
    ("3,500 kg trailer", "uk", metric(3500, 3500, 3400), "uk.heavy_trailer", Standing.CLEAR),
    ("3,600 kg trailer", "uk", metric(3500, 3600, 3400), "uk.heavy_trailer", Standing.RAISED),
    (
        "1.2 m back",
        "uk",
        metric(3500, 3500, 3000, past_tail_m=1.2),
        "uk.past_tail",
        Standing.RAISED,
    ),
    (
        "unbraked at 800 kg",
        "uk",
        metric(2500, 800, 700, braked=False),
        "uk.brakes",
        Standing.RAISED,
    ),
)

LIGHT: Final = {
    "heaviest_kg": 500.0,
    "braked": True,
    "width_m": 2.0,
    "height_m": 2.5,
    "past_tail_m": 0.0,
    "past_side_m": 0.0,
}


class WorkedCases(SimpleTestCase):
    def test_each_by_its_rule(self) -> None:
        for name, law, given, code, expected in CASES:
            with self.subTest(case=name, code=code):
                found = {
                    flag.rule.code: flag.standing
                    for flag in flags(LAWS[law].rules, OnTheRoad(**{**LIGHT, **given}))
                }
                self.assertIs(found[code], expected)

    def test_there_are_enough_of_them(self) -> None:
        self.assertGreaterEqual(len(CASES), 20)
        self.assertEqual({law for _, law, *_ in CASES}, set(LAWS))
