"""What each flag of the law says: never that something is allowed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from measures.writing import UnitSystem, write_length, write_mass
from mechanics.law import CANADA, EU, LENGTHS, MASSES, UK, US, Condition, Fact, OnTheRoad, Rule

AS_OF: Final = "2025, from memory"
"""Up to when the sources were known."""

CHECK: Final = "Check your local rule."


@dataclass(frozen=True, kw_only=True, slots=True)
class Law:
    """A set of rules with its name."""

    name: str
    rules: tuple[Rule, ...]
    as_of: str = AS_OF


LAWS: Final = {
    "us": Law(name="United States, federal", rules=US),
    "ca": Law(name="Canada, figures of many provinces", rules=CANADA),
    "eu": Law(name="European Union", rules=EU),
    "uk": Law(name="Great Britain", rules=UK),
}

USUAL: Final = {UnitSystem.US: "us", UnitSystem.METRIC: "eu"}
"""The set that is taken where a yard has said nothing."""

WORDS: Final = {
    "us.commercial_vehicle": "Commercial vehicle if it is hauled for a business across state "
    "lines: DOT number, medical card, logs. Many states ask the same within the state",
    "us.commercial_licence": "Commercial driver's licence, class A",
    "us.heavy_truck_licence": "Commercial driver's licence for the truck by itself, class B",
    "us.brakes": "A trailer this heavy has to have brakes on all wheels; some states ask it "
    "earlier",
    "us.breakaway": "Breakaway brake required, with a battery that holds it",
    "us.width": "Wider than a road takes without a permit",
    "us.height": "Higher than most states take without a permit",
    "us.past_tail": "Load past the tail: red or orange flags by day, lamps by night",
    "us.past_side": "Load past the sides: flags by day, lamps by night",
    "us.heavy_machine": "Heavy machine: at least four ties, blades and booms lowered and held",
    "us.ties": "Ties: working load limits together at least half of the cargo's mass, in commerce",
    "us.speed": "Speed with a trailer: some states have a lower limit",
    "ca.trailer_licence": "Heavy trailer endorsement or higher class, by what the trailer is "
    "registered for, whatever it weighs today",
    "ca.commercial_vehicle": "Commercial vehicle if it is hauled for a business: safety "
    "certificate, daily inspection, hours",
    "ca.brakes": "A trailer this heavy has to have brakes; some provinces ask it earlier",
    "ca.breakaway": "Breakaway brake required where brakes are",
    "ca.width": "Wider than a road takes without a permit",
    "ca.height": "Higher than a road takes without a permit",
    "ca.past_tail": "Load past the tail: red flag by day, red lamp by night",
    "ca.heavy_machine": "Heavy machine: at least four ties, attachments lowered and held",
    "ca.ties": "Ties: working load limits together at least half of the cargo's mass",
    "ca.speed": "Speed with a trailer: some provinces have a lower limit",
    "eu.b96": "Category B is not enough: B96 at least",
    "eu.be": "Category BE",
    "eu.heavy_trailer": "Trailer past BE: category C1E",
    "eu.heavy_truck": "Truck past category B: category C1",
    "eu.tachograph": "Tachograph and driving times if it is hauled for a business; there are "
    "exemptions by distance and trade",
    "eu.brakes": "A trailer plated this high has to have brakes",
    "eu.half_the_car": "Without brakes it may weigh no more than half of the car ready to drive",
    "eu.breakaway": "Brake or secondary coupling that works when the coupling fails",
    "eu.width": "Wider than a road takes without a permit",
    "eu.height": "Higher than a road takes without a permit",
    "eu.past_tail": "Load past the tail: marked, by night lit; how differs by country",
    "eu.ties": "Ties: forces by EN 12195-1, whoever hauls",
    "eu.speed": "Speed with a trailer: lower than without in most countries",
    "uk.heavy_trailer": "Trailer past category B: category BE of old, C1E or CE",
    "uk.heavy_truck": "Truck past category B: category C1",
    "uk.tachograph": "Tachograph and driving times if it is hauled for a business; there are "
    "exemptions by distance and trade",
    "uk.operator": "Operator's licence if goods are hauled for a business; light trailers are "
    "left out",
    "uk.brakes": "A trailer plated this high has to have brakes",
    "uk.half_the_car": "Without brakes it may weigh no more than half of the car's kerb mass",
    "uk.breakaway": "Breakaway cable or secondary coupling required",
    "uk.width": "Wider than a road takes without notice or a permit",
    "uk.past_tail": "Load past the tail: it has to be clearly seen; past 2 m with end boards",
    "uk.past_side": "Load past the sides by more than is allowed",
    "uk.ties": "The load must not be a danger, however it moves: ties hold all of it forward, half "
    "of it back and to the sides",
    "uk.speed": "Speed with a trailer: 60 mph on motorways and dual carriageways, 50 mph "
    "elsewhere, less for goods vehicles past 7.5 t",
}
"""What each rule asks for, by its code."""

FACTS: Final = {
    Fact.TRUCK_PLATE: "the truck's plate",
    Fact.TRAILER_PLATE: "the trailer's plate",
    Fact.TOGETHER_PLATES: "both plates together",
    Fact.TOGETHER_MOST: "both plates together, or what both weigh if that is more",
    Fact.TRAILER: "the trailer as loaded",
    Fact.TOGETHER: "truck and trailer as loaded",
    Fact.HEAVIEST: "the heaviest machine",
    Fact.UNBRAKED: "a trailer without brakes",
    Fact.OVER_HALF_TRUCK: "a trailer heavier than half the truck with its driver",
    Fact.WIDTH: "the width",
    Fact.HEIGHT: "the height",
    Fact.PAST_TAIL: "what reaches past the tail",
    Fact.PAST_SIDE: "what reaches past the deck's side",
}
"""What a rule goes by, in words."""

ALWAYS: Final = "Any haul"


def figure_words(fact: Fact, value: float, unit: UnitSystem) -> str:
    """A figure that a rule goes by, with its unit."""
    if fact in MASSES:
        return write_mass(value, unit)
    return write_length(value, unit) if fact in LENGTHS else ""


def trigger_words(condition: Condition, outfit: OnTheRoad, unit: UnitSystem) -> str:
    """What raises a flag on this haul, or would: the figure beside the limit."""
    name = FACTS[condition.fact]
    if condition.fact not in (*MASSES, *LENGTHS):
        value = outfit.fact(condition.fact)
        return f"{name}: not known" if value is None else f"{name}: {'yes' if value else 'no'}"
    limit = figure_words(condition.fact, condition.limit, unit)
    asked = f"{'from' if condition.reached else 'more than'} {limit}"
    value = outfit.at_least(condition.fact)
    if value is None:
        return f"{name}: not known, {asked}"
    least = "at least " if outfit.fact(condition.fact) is None else ""
    return f"{name}: {least}{figure_words(condition.fact, value, unit)}, {asked}"
