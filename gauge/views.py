"""The gauge on the phone: live figure, band, move, and readings kept."""

from __future__ import annotations

import json
import threading
from dataclasses import replace
from typing import Any

from django.conf import settings
from django.contrib import messages
from django.db import connection
from django.http import Http404, HttpResponse, StreamingHttpResponse
from django.shortcuts import redirect
from django.template.loader import render_to_string
from django.views.decorators.http import require_POST, require_safe

from aspects.rooms import aspect_page, with_plan
from gauge.coaching import Coach, aim_of, correction_words, mark_words
from gauge.forms import DialForm, FrozenForm
from gauge.models import Gauge
from gauge.pages import CoachPage, Dialled, Frozen, Gone, Live, held
from gauge.services import Reading, keep_reading
from gauge.watching import HubGone, Watch
from hauls.models import Haul
from mechanics.coach import Gauge as GaugeFacts
from mechanics.coach import is_settled, mean_of_settled
from mechanics.plan import Plan
from web.pages import parts, show
from web.sent import counted, whole_number
from weighing.services import quantity
from yards.access import YardRequest, in_yard

_streams = threading.BoundedSemaphore(max(settings.GAUGE_STREAMS, 1))
"""Pages that may hold a stream of this process; the server's other threads stay free."""


def _asked(request: YardRequest, plan: Plan) -> tuple[Gauge | None, int]:
    """The gauge and the item that the page is about."""
    sent = request.POST if request.method == "POST" else request.GET
    own = Gauge.objects.filter(yard=request.yard)
    wanted = whole_number(sent.get("gauge"))
    gauge = own.first() if wanted is None else own.filter(pk=wanted).first()
    if wanted is not None and gauge is None:
        raise Http404("no such gauge")
    index = max(counted(sent.get("item")), 0)
    return gauge, min(index, max(len(plan.items) - 1, 0))


def _facts(gauge: Gauge | None) -> GaugeFacts:
    if gauge is None:
        return GaugeFacts()
    return GaugeFacts(step_kg=gauge.step_kg, lag_s=float(gauge.lag))


def _moving(request: YardRequest, plan: Plan) -> tuple[Gauge, int]:
    """The gauge and the item; without a gauge, or with nothing to move, there is no page."""
    gauge, index = _asked(request, plan)
    if gauge is None or not plan.items:
        raise Http404("no gauge, or nothing to move")
    return gauge, index


def _typed(request: YardRequest) -> bool:
    """Whether a reading comes off a dial that somebody read, not from a gauge that sends."""
    return request.POST.get("typed") == "1"


def _coach(request: YardRequest, haul: Haul, gauge: Gauge | None, index: int) -> Coach:
    sent = request.POST if request.method == "POST" else request.GET
    aim = aim_of(haul, index, _facts(gauge))
    try:
        down_kg = float(str(sent.get("down_kg", "")) or 0)
    except ValueError:
        down_kg = 0.0
    return Coach(
        aim,
        request.user.unit_system,
        # nobody has said that they are up: they count as down
        ramps_down=sent.get("ramps") != "up",
        down_kg=down_kg if 0 <= down_kg < 1e5 else 0.0,
    )


def _page(request: YardRequest, haul: Haul, plan: Plan) -> CoachPage:
    """What the page shows before anything was read."""
    gauge, index = _asked(request, plan)
    unit = request.user.unit_system
    page = CoachPage(
        gauge=gauge,
        gauges=Gauge.objects.filter(yard=request.yard),
        items=plan.items,
        index=index,
        kept=haul.weighings.filter(ticket__method="gauge").select_related("ticket")[:6],
        dial=DialForm(units=unit),
    )
    if not plan.items:
        return page
    aim = aim_of(haul, index, _facts(gauge))
    return replace(
        page,
        mark=mark_words(plan, index, unit),
        aim=aim,
        moved=plan.items[index],
        corrections=correction_words(aim, haul, unit),
    )


@require_safe
@in_yard
@with_plan
def coach_page(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """The page for the phone on the tractor."""
    return aspect_page(request, "gauge/coach.html", haul, "gauge", _page(request, haul, plan))


@require_POST
@in_yard
@with_plan
def dial(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """What to do for a figure that somebody read off a dial, and a form to keep it."""
    if not plan.items:
        raise Http404("nothing to move")
    gauge, index = _asked(request, plan)
    unit = request.user.unit_system
    form = DialForm(request.POST, units=unit)
    coach = _coach(request, haul, None, index)
    initial: dict[str, Any] = {"aboard": True}
    panel = None
    if form.is_valid():
        initial["reading"] = form.cleaned_data["dial"]
        panel = coach.read_dial(float(form.cleaned_data["dial"].si))
    kept = held(FrozenForm(units=unit, initial=initial), coach, plan, typed=True)
    if request.headers.get("HX-Request") == "true":
        answer = Dialled(haul=haul, gauge=gauge, index=index, dial=form, panel=panel, held=kept)
        return show(request, "gauge/_dialled.html", answer, status=422 if form.errors else 200)
    page = replace(
        _page(request, haul, plan),
        dial=form,
        panel=panel,
        held=kept,
        down=coach.ramps_down,
        answered=True,
    )
    return aspect_page(request, "gauge/coach.html", haul, "gauge", page, wrong=bool(form.errors))


class _Events:
    """The panel anew for everything that the hub tells, as server-sent events.

    Closed once, whether or not a first event was ever asked for: it then gives its place
    among the streams back.
    """

    def __init__(self, watch: Watch, coach: Coach) -> None:
        self._watch, self._coach = watch, coach
        self._told = watch.events()
        self._open = True

    def __iter__(self) -> _Events:
        return self

    def __next__(self) -> bytes:
        if not self._open:
            raise StopIteration
        try:
            event = next(self._told)
        except HubGone as error:
            self.close()
            return _message(render_to_string("gauge/_gone.html", parts(Gone(why=str(error)))))
        self._coach.see(event)
        panel = _message(
            render_to_string("gauge/_panel.html", parts(Live(panel=self._coach.panel(event))))
        )
        # the page draws the panel; a program that listens in has the reading itself
        return panel + f"event: reading\ndata: {json.dumps(event)}\n\n".encode()

    def close(self) -> None:
        """End the connection to the hub."""
        if self._open:
            self._open = False
            self._watch.__exit__(None, None, None)
            _streams.release()


def _message(html: str) -> bytes:
    lines = "".join(f"data: {line}\n" for line in html.splitlines() if line.strip())
    return f"event: panel\n{lines}\n".encode()


@require_safe
@in_yard
@with_plan
def stream(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse | StreamingHttpResponse:
    """The panel as server-sent events, anew for every reading.

    With too many pages watching, 503: the page then asks again and again instead.
    """
    gauge, index = _moving(request, plan)
    if not _streams.acquire(blocking=False):
        return HttpResponse("Too many pages are watching.", status=503)
    watch = Watch(settings.GAUGE_HOST, settings.GAUGE_PORT, gauge.key)
    try:
        coach = _coach(request, haul, gauge, index)
        watch.__enter__()
    except HubGone as error:
        _streams.release()
        # an answer that ends is asked for again after a while, by the browser itself
        gone = render_to_string("gauge/_gone.html", parts(Gone(why=str(error))))
        return HttpResponse(_message(gone), content_type="text/event-stream")
    except BaseException:
        _streams.release()
        raise
    # the stream may last for hours; it has no need of the database
    if not connection.in_atomic_block:
        connection.close()
    answer = StreamingHttpResponse(_Events(watch, coach), content_type="text/event-stream")
    answer["Cache-Control"] = "no-store"
    answer["X-Accel-Buffering"] = "no"
    # said so that nothing on the way packs it, which would hold readings back
    answer["Content-Encoding"] = "identity"
    return answer


@require_safe
@in_yard
@with_plan
def now(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """The panel once, for pages that have no stream."""
    gauge, index = _moving(request, plan)
    coach = _coach(request, haul, gauge, index)
    try:
        event = _once(gauge, coach)
    except HubGone as error:
        return show(request, "gauge/_gone.html", Gone(why=str(error)))
    return show(request, "gauge/_panel.html", Live(panel=coach.panel(event)))


def _once(gauge: Gauge, coach: Coach) -> dict[str, Any]:
    with Watch(settings.GAUGE_HOST, settings.GAUGE_PORT, gauge.key) as watch:
        event = next(watch.events())
    coach.see(event)
    return event


@require_POST
@in_yard
@with_plan
def freeze(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Hold the figure as it is now, to be kept as a reading or let go."""
    gauge, index = _moving(request, plan)
    unit = request.user.unit_system
    coach = _coach(request, haul, gauge, index)
    frozen = Frozen(haul=haul, gauge=gauge, index=index)
    try:
        event = _once(gauge, coach)
    except HubGone as error:
        return show(request, "gauge/_frozen.html", replace(frozen, why=str(error)))
    recent = coach.recent()
    panel = coach.panel(event)
    if panel.stale or not recent:
        why = panel.silence or "There is no reading to freeze."
        return show(request, "gauge/_frozen.html", replace(frozen, why=why))
    settled = is_settled(recent, coach.gauge)
    kg = mean_of_settled(recent) if settled else recent[-1].kg
    mass = quantity(kg, unit.mass_unit)
    form = FrozenForm(
        units=unit,
        # no place is filled in: one that was not taped would correct the coach wrongly
        initial={"reading": mass, "aboard": True},
    )
    frozen = replace(frozen, held=held(form, coach, plan, typed=False, settled=settled, mass=mass))
    return show(request, "gauge/_frozen.html", frozen)


@require_POST
@in_yard
@with_plan
def save(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Keep a held reading as a ticket of the haul: of a gauge that sends, or off a dial."""
    if not plan.items:
        raise Http404("nothing to move")
    gauge, index = _asked(request, plan)
    unit = request.user.unit_system
    form = FrozenForm(request.POST, units=unit)
    coach = _coach(request, haul, gauge, index)
    tail = coach.aim.tail_words
    if coach.ramps_down and tail:
        form.add_error(None, f"{tail.first} first: {tail.them} may still carry a part of it.")
    if not form.is_valid():
        again = held(
            form, coach, plan, typed=_typed(request), mass=form.cleaned_data.get("reading")
        )
        frozen = Frozen(haul=haul, gauge=gauge, index=index, held=again)
        return show(request, "gauge/_frozen.html", frozen, status=422)
    aboard = form.cleaned_data["aboard"]
    keep_reading(
        haul,
        None if _typed(request) else gauge,
        Reading(
            mass=form.cleaned_data["reading"],
            index=index,
            reference=form.cleaned_data["reference"] if aboard else None,
        ),
        user=request.user,
    )
    messages.success(request, "The reading is kept as a ticket; the coach goes by it from now on.")
    answer = redirect("gauge", haul.pk)
    address = f"{answer.url}?item={index}"
    if gauge is not None:
        address += f"&gauge={gauge.pk}"
    if request.headers.get("HX-Request") == "true":
        answered = HttpResponse(status=204)
        answered["HX-Redirect"] = address
        return answered
    return redirect(address)


@require_POST
@in_yard
@with_plan
def trust(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Say that what the gauge sends is right, after it was doubted."""
    gauge, _ = _moving(request, plan)
    try:
        with Watch(settings.GAUGE_HOST, settings.GAUGE_PORT, gauge.key) as watch:
            next(watch.events())
            watch.trust()
    except HubGone as error:
        return HttpResponse(str(error), status=503)
    return HttpResponse(status=204)
