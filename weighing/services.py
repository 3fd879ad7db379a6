"""Keep what was weighed, and offer it to the book."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final, cast

from django.db import transaction
from django.db.models import F

from book.fields import field_words
from book.history import keep, recorded
from book.models import Aboard, Configuration, Known, Machine, Thing, Ticket, Trailer, Truck
from book.services.photos import attach
from measures import Quantity, UnitSystem
from measures.writing import write_entered, write_mass, write_percent
from mechanics.weighing import Result, off_step
from planfile.errors import PlanFileError
from web.sent import counted
from weighing.forms import WeighForm
from yards.models import User

ON_TICKET: Final[dict[type, dict[str, str]]] = {
    Trailer: {
        "trailer": "whole_mass",
        "tongue": "tongue_mass",
        "load": "tongue_mass",
        "trailer_axles": "axles_mass",
    },
    Machine: {
        "machine": "whole_mass",
        "whole": "whole_mass",
        "axle_1": "front_axle_mass",
        "axle_2": "rear_axle_mass",
    },
    Truck: {
        "whole": "whole_mass",
        "axle_1": "front_axle_mass",
        "axle_2": "rear_axle_mass",
        "truck_front": "front_axle_mass",
        "truck_rear": "rear_axle_mass",
    },
}
"""Which figure of a ticket a result is, by what was weighed. What a truck's axles carry with a
trailer on is none of its own."""

OF_NOTHING: Final = {**ON_TICKET[Truck], **ON_TICKET[Machine], **ON_TICKET[Trailer]}
"""The same where nobody said what was weighed."""

OVER_JACK: Final = (1.04, 1.35)
"""How many times the tongue a scale under the jack shows that was meant to be under the ball."""

BATHROOM_KG: Final = 200.0
"""Beyond this no bathroom scale shows anything. Common practice, no source."""

FAR_OFF: Final = 0.25
"""A weighing that differs from the book by more than this part is asked about."""


def quantity(kg: float, unit: str) -> Quantity:
    """A worked-out mass to the whole pound or kilogram."""
    return Quantity.nearest(kg, unit)


def unit_of(form: WeighForm, system: UnitSystem) -> str:
    """The unit a result is written in: that of the first mass read, where it is lb or kg."""
    for read in form.readings().values():
        if read.unit in ("lb", "kg"):
            return read.unit
    return system.mass_unit


class StaleTicket(Exception):
    """Somebody saved the ticket in between; nothing was stored."""


@transaction.atomic
def keep_ticket(
    form: WeighForm,
    result: Result,
    *,
    user: User,
    system: UnitSystem,
    aboard: list[Aboard],
    ticket: Ticket | None = None,
    version: str = "",
) -> Ticket:
    """The readings as a ticket, with the figures that follow from them and what was aboard.

    ``ticket`` is one that is corrected, at the ``version`` its page was made from.

    Raises:
        StaleTicket: it has moved on.
        PhotoError: the photo cannot be kept.
    """
    unit = unit_of(form, system)
    if ticket is None:
        ticket = Ticket(yard=form.yard, method=form.method.slug, added_by=user)
    else:
        based = counted(version)
        claimed = Ticket.objects.filter(pk=ticket.pk, version=based)
        if not claimed.update(version=F("version") + 1):
            raise StaleTicket
        ticket.version = based + 1
    for name in ("weighed_on", "place", "number", "fee", "read_by", "aboard"):
        setattr(ticket, name, form.cleaned_data[name])
    ticket.first = form.cleaned_data["first_weighing"]
    _fill(ticket, form, result, unit)
    ticket.save()
    ticket.loads.all().delete()
    for row in aboard:
        row.ticket = ticket
        row.save()
    if form.cleaned_data.get("photo"):
        attach(ticket, form.cleaned_data["photo"], caption="Ticket", user=user)
    return ticket


def _fill(ticket: Ticket, form: WeighForm, result: Result, unit: str) -> None:
    """Put what was weighed, its figures and its readings on a ticket."""
    ticket.thing = form.thing_chosen
    ticket.configuration = form.configuration_chosen
    tolerances: dict[str, float] = {}
    for field in Ticket.FIGURES:
        setattr(ticket, field, None)
    columns = ON_TICKET.get(type(ticket.thing), OF_NOTHING)
    for figure in result.figures:
        on_ticket = columns.get(figure.of)
        if on_ticket is not None:
            setattr(ticket, on_ticket, quantity(figure.value, unit))
            tolerances[on_ticket] = figure.tolerance
    boxes = {**form.readings(), **form.of_the_scale()}
    ticket.readings = {
        "boxes": {name: write_entered(read) for name, read in boxes.items()},
        "figures": [[f.of, f.value, f.tolerance] for f in result.figures],
        "tolerance_kg": tolerances,
        "empty": bool(form.cleaned_data.get("empty")),
        "choice": str(form.cleaned_data.get("choice", "")),
    }


def would_offer(form: WeighForm, result: Result, *, system: UnitSystem) -> list[Offer]:
    """What the book could take over once the ticket is kept; nothing is stored by it."""
    if form.thing_chosen is None:
        return []
    ticket = Ticket(yard=form.yard, method=form.method.slug)
    _fill(ticket, form, result, unit_of(form, system))
    return offers(ticket)


@dataclass(frozen=True, kw_only=True)
class Offer:
    """One figure of the book that a ticket could replace."""

    what: str
    now: Quantity | None
    then: Quantity
    fields: dict[str, Any]


def offers(ticket: Ticket) -> list[Offer]:
    """What the book could take over from a ticket; nothing is changed by it."""
    thing = ticket.thing
    empty = bool(ticket.readings.get("empty"))
    if isinstance(thing, Machine):
        return _machine_offers(ticket, thing)
    if isinstance(thing, Trailer) and empty:
        whole = _offer(
            ticket, thing, "whole_mass", "empty_mass", "empty_known", "empty_mass_tolerance"
        )
        if bars_hung(ticket):
            # what the truck was handed is less than the tongue
            return whole
        return [
            *whole,
            *_offer(
                ticket,
                thing,
                "tongue_mass",
                "empty_tongue_mass",
                "tongue_known",
                "empty_tongue_mass_tolerance",
                {"tongue_taken_at": None},
            ),
        ]
    rolled_alone = ticket.method != "axle-by-axle" or ticket.readings.get("choice") == "truck"
    alone_too = "truck_front" in dict.fromkeys(f[0] for f in ticket.readings.get("figures", ()))
    if isinstance(thing, Truck) and empty and (rolled_alone or alone_too):
        more = {"empty_from": Truck.EmptyFrom.AXLES, "aboard_mass": None, "aboard_ahead": None}
        return [
            *_offer(ticket, thing, "front_axle_mass", "front_axle_mass", "", "", more),
            *_offer(ticket, thing, "rear_axle_mass", "rear_axle_mass", "", "", more),
        ]
    return []


def bars_hung(ticket: Ticket) -> bool:
    """Whether a haul's ticket was read with spring bars hung, which take load off the tongue
    and put it on the trailer's axles.

    Tickets of earlier versions do not say; the haul as it is now stands in for what it was.
    """
    said = ticket.readings.get("bars")
    if said is not None:
        return bool(said)
    of_haul = getattr(ticket, "of_haul", None)
    if of_haul is None:
        return False
    try:
        return of_haul.haul.draft.plan.hitch.weight_distribution is not None
    except PlanFileError:
        return False


def _machine_offers(ticket: Ticket, machine: Machine) -> list[Offer]:
    if ticket.configuration is not None:
        return _configuration_offers(ticket, ticket.configuration)
    if machine.built == Machine.Built.AXLES:
        return [
            *_offer(ticket, machine, "front_axle_mass", "front_axle_mass"),
            *_offer(ticket, machine, "rear_axle_mass", "rear_axle_mass"),
        ]
    if machine.built == Machine.Built.WHOLE:
        return _offer(ticket, machine, "whole_mass", "mass", "mass_known", "mass_tolerance")
    return []


def _configuration_offers(ticket: Ticket, configuration: Configuration) -> list[Offer]:
    """Both axles of a machine as it was set up; one mass of a configuration the book has not."""
    found = []
    for field in ("front_axle_mass", "rear_axle_mass"):
        found += _offer(ticket, configuration, field, field)
    return found


def _offer(
    ticket: Ticket,
    thing: Thing | Configuration,
    read: str,
    field: str,
    known: str = "",
    tolerance: str = "",
    more: dict[str, Any] | None = None,
) -> list[Offer]:
    value = getattr(ticket, read)
    now = getattr(thing, field)
    if value is None or (now is not None and str(now) == str(value)):
        return []
    fields: dict[str, Any] = {field: value, **(more or {})}
    if known:
        fields[known] = Known.WEIGHED
    doubt = ticket.readings.get("tolerance_kg", {}).get(read)
    if tolerance and doubt is not None:
        fields[tolerance] = quantity(float(doubt), value.unit)
    name = field_words(thing, field)
    return [
        Offer(
            what=name[:1].upper() + name[1:],
            now=now,
            then=value,
            fields=fields,
        )
    ]


def take_over(ticket: Ticket, *, user: User) -> Thing | None:
    """Put a ticket's figures into the book, as one change of its history."""
    found = offers(ticket)
    thing = ticket.thing
    if not found or thing is None:
        return None
    where = ", ".join(part for part in (ticket.place, ticket.number) if part)
    with recorded(
        yard=ticket.yard, user=user, why=f"Weighed {ticket}{': ' + where if where else ''}"
    ):
        owner = ticket.configuration or thing
        for offer in found:
            for name, value in offer.fields.items():
                setattr(owner, name, value)
        if ticket.configuration is not None:
            ticket.configuration.save()
        thing.version += 1
        thing.save()
        keep(thing)
    return cast("Thing", thing)


def doubts(form: WeighForm, result: Result, system: UnitSystem) -> list[str]:
    """What is odd about a result, as questions; it may be right all the same."""
    thing = form.thing_chosen
    found = []
    figures = {figure.of: figure for figure in result.figures}
    tongue = figures.get("tongue") or figures.get("load")
    if isinstance(thing, Trailer):
        whole = figures.get("trailer") or figures.get("whole")
        against = whole.value if whole else None
        if against is None and thing.empty_mass is not None:
            against = float(thing.empty_mass.si)
        if tongue is not None and against and form.cleaned_data.get("empty"):
            share = tongue.value / against
            if share > thing.most_empty_share:
                found.append(
                    f"This would make the tongue {write_percent(share)} of the empty trailer: is "
                    "it level, and the jack off the ground?"
                )
            elif share < 0.04:
                found.append(
                    f"This would make the tongue only {write_percent(share)} of the empty "
                    "trailer: does the jack still carry?"
                )
    found += _under_the_jack(form, figures, system)
    found += _between_steps(form)
    found += _more_than_bathroom_scales(form, system)
    now, then = _both(form, thing, figures)
    if now and then and abs(then - now) > FAR_OFF * now:
        found.append(
            f"The book says {write_mass(now, system)}. Was something on it, off it, or is a "
            "reading in the other unit?"
        )
    return found


def _under_the_jack(form: WeighForm, figures: dict[str, Any], system: UnitSystem) -> list[str]:
    """A scale meant to be under the coupler that shows as much more as one under the jack."""
    thing, tongue = form.thing_chosen, figures.get("tongue")
    if (
        form.method.slug != "under-the-ball"
        or not isinstance(thing, Trailer)
        or tongue is None
        or not form.cleaned_data.get("empty")
        or thing.empty_tongue_mass is None
        or thing.tongue_known != Known.WEIGHED
    ):
        return []
    book = float(thing.empty_tongue_mass.si)
    if not OVER_JACK[0] < (tongue.value - tongue.tolerance) / book < OVER_JACK[1]:
        return []
    return [
        f"The book has {write_mass(book, system)}. A scale under the jack shows more than one "
        "under the coupler: where did it stand? There is a way of weighing for either."
    ]


def _between_steps(form: WeighForm) -> list[str]:
    """Readings that a scale of such steps cannot show, each in its own unit."""
    step = form.cleaned_data.get("step")
    if step is None:
        return []
    found = []
    for name, read in form.readings().items():
        if name in form.method.read_on_scale and off_step(float(read.si), float(step.si)):
            found.append(
                f"{form.fields[name].label}: a scale in steps of {write_entered(step)} cannot "
                f"show {write_entered(read)}. Is the reading in the other unit, or a digit wrong?"
            )
    return found


def _more_than_bathroom_scales(form: WeighForm, system: UnitSystem) -> list[str]:
    """A reading beyond the usual bathroom scale, where nobody said what the scale can."""
    if form.method.has[0] != "bathroom" or form.cleaned_data.get("capacity") is not None:
        return []
    read = [float(q.si) for n, q in form.readings().items() if n in form.method.read_on_scale]
    if not read or max(read) <= BATHROOM_KG:
        return []
    return [
        f"Bathroom scales end at {write_mass(BATHROOM_KG, system)} at the most. If it was another "
        "scale, give its capacity; if not, is the reading in the other unit?"
    ]


def _both(
    form: WeighForm, thing: Thing | None, figures: dict[str, Any]
) -> tuple[float | None, float | None]:
    """What the book says of the whole, and what was weighed."""
    whole = next((figures[n] for n in ("machine", "trailer", "whole") if n in figures), None)
    entered = None
    if isinstance(thing, Machine) and form.configuration_chosen is None:
        entered = thing.mass
    elif isinstance(thing, Trailer):
        entered = thing.empty_mass
    return (
        None if entered is None else float(entered.si),
        None if whole is None else whole.value,
    )
