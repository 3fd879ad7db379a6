"""Every address of the application, with things of the demo yard in it: for tests that walk all of
them, so that a new one is covered by itself."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.urls import URLPattern, URLResolver, get_resolver, reverse

from api.models import Token
from book.models import (
    Configuration,
    Gear,
    Hitch,
    Machine,
    Photo,
    Removed,
    Ticket,
    Trailer,
    Truck,
)
from book.services.photos import attach
from day.asking import Asked
from day.models import Stay
from day.proposing import Found
from demo.plate import plate_photo
from gauge.models import Gauge
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from longwork.models import LongWork
from measures import Quantity
from practice.models import Attempt, Course, Part
from road.models import Defect, Inspection, Stopped, Trip
from walk.models import Walk
from yards.models import Membership, Role, User
from yards.services.people import invite


class EveryAddress(YardCase):
    """The demo yard, and every named address."""

    OPEN = {
        "calendar_feed",
        "sign_in",
        "sign_out",
        "sign_up",
        "join",
        "choose_password",
        "schema",
        "gauge_send",
        "healthz",
        "manifest",
        "worker",
        "no_signal",
    }
    """Addresses that anybody may ask for, signed in or not."""

    def names(self) -> dict[str, list[str]]:
        """Names of all addresses with the arguments they take."""
        found: dict[str, list[str]] = {}

        def walk(patterns: Any, outer: list[str]) -> None:
            for pattern in patterns:
                needs = [*outer, *(str(name) for name in pattern.pattern.converters)]
                if isinstance(pattern, URLResolver) and pattern.namespace:
                    # what programs ask for is held against its own schema
                    continue
                if isinstance(pattern, URLResolver):
                    walk(pattern.url_patterns, needs)
                elif isinstance(pattern, URLPattern) and pattern.name:
                    found[pattern.name] = needs

        walk(get_resolver().url_patterns, [])
        return found

    def address(self, name: str) -> str:
        """An address of that name with things of the demo yard in it."""
        machine = Machine.objects.filter(configurations__isnull=False).first()
        member = Membership.objects.exclude(user=self.user).filter(yard=self.yard).first()
        truck = Truck.objects.get(name="Work truck 3")
        invitation, _ = invite(yard=self.yard, role=Role.DRIVER, for_whom="", made_by=self.user)
        driver = User.objects.get(username="demo-driver")
        own = Ticket.objects.create(
            yard=self.yard, weighed_on="2026-05-04", method="gauge", added_by=driver
        )
        with_photo = attach(own, plate_photo(("TICKET",)), caption="", user=driver)
        walk = Walk.objects.create(yard=self.yard)
        work = LongWork.objects.create(
            yard=self.yard, kind="table", title="Table", begun_by=self.user
        )
        gone = Removed.objects.create(yard=self.yard, what="ticket", name="Gone", rows=[])
        trip = Trip.objects.create(
            yard=self.yard, driven_on="2026-05-04", distance=Quantity.parse("4 mi"), by=driver
        )
        stopped = Stopped.objects.create(
            haul=Haul.objects.filter(yard=self.yard).last(), revision=1, tongue_kg=400
        )
        inspection = Inspection.objects.filter(yard=self.yard).first()
        planned = LongWork.objects.create(
            yard=self.yard,
            kind="day-plan",
            title="A plan",
            begun_by=self.user,
            state=LongWork.State.DONE,
            asked=Asked(day=date(2026, 6, 1), wanted=(), driving=()).json(),
            result=Found(plans=(), notes=()).json(),
        )
        stay = Stay.objects.filter(yard=self.yard).first()
        course = Course.objects.create(yard=self.yard, name="A week")
        part = Part.objects.create(yard=self.yard, course=course, place=1, kind="eye", seed=7)
        tried = Attempt.objects.create(
            yard=self.yard,
            person=driver,
            kind="sways",
            seed=7,
            grade="right",
            answer={"now": ["foot"], "then": ["forward"]},
        )
        given = {
            "practice_case": ("eye", 7),
            "practice_placed": ("eye", 7),
            "practice_record_of": (driver.pk,),
            "practice_done": (tried.pk,),
            "practice_course": (course.pk,),
            "practice_course_edit": (course.pk,),
            "practice_course_remove": (course.pk,),
            "practice_course_add": (course.pk,),
            "practice_sheets": (course.pk,),
            "practice_part": (part.pk,),
            "practice_part_change": (part.pk,),
            "put_plan": (planned.pk,),
            "plan_again": (planned.pk,),
            "stay": (stay.pk,),
            "remove_stay": (Stay.objects.filter(yard=self.yard).last().pk,),
            "driver_terms": (driver.pk,),
            "move_thing": ("machines", machine.pk),
            "withdraw_token": (
                Token.objects.get_or_create(
                    yard=self.yard, user=driver, name="Theirs", digest="theirs"
                )[0].pk,
            ),
            "remove_trip": (trip.pk,),
            "teach_stopped": (stopped.pk,),
            "inspected": (inspection.pk,),
            "remove_inspection": (inspection.pk,),
            "decide_defect": (Defect.objects.filter(yard=self.yard).first().pk,),
            "mend_defect": (Defect.objects.filter(yard=self.yard).first().pk,),
            "bring_removed_back": (gone.pk,),
            "long_work": (work.pk,),
            "end_long_work": (work.pk,),
            "walk": (walk.pk,),
            "walk_step": (walk.pk, "truck-gvwr"),
            "truck_alone": (truck.pk,),
            "trailer_alone": (Trailer.objects.filter(yard=self.yard).first().pk,),
            "weighings": ("machines", machine.pk),
            "edit_gauge": (Gauge.objects.get_or_create(yard=self.yard, name="Hitch gauge")[0].pk,),
            "gauge_set_up": (
                Gauge.objects.get_or_create(yard=self.yard, name="Hitch gauge")[0].pk,
            ),
            "remove_gauge": (
                Gauge.objects.get_or_create(yard=self.yard, name="Hitch gauge")[0].pk,
            ),
            "edit_ticket": (own.pk,),
            "add_ticket_photo": (own.pk,),
            "remove_ticket_photo": (own.pk, with_photo.pk),
            "add_thing": ("machines",),
            "edit_thing": ("machines", machine.pk),
            "history": ("machines", machine.pk),
            "copy_thing": ("machines", machine.pk),
            "label": ("machines", machine.pk),
            "restore_thing": ("machines", machine.pk),
            "measure": ("machines", machine.pk),
            "retire_gear": (Gear.objects.filter(yard=self.yard).first().pk,),
            "usual_places": ("machines", machine.pk),
            "add_photo": ("machines", machine.pk),
            "add_ticket": ("machines", machine.pk),
            "remove_ticket": (Ticket.objects.filter(added_by__username="demo-driver").last().pk,),
            "remove_thing": ("machines", machine.pk),
            "understand": ("mass",),
            "table_out": ("machines",),
            "table_in": ("machines",),
            "photo": (Photo.objects.filter(yard=self.yard).first().pk,),
            "remove_photo": (Photo.objects.filter(yard=self.yard).first().pk,),
            "add_hitch": (truck.pk,),
            "edit_hitch": (truck.pk, Hitch.objects.filter(truck=truck).first().pk),
            "remove_hitch": (truck.pk, Hitch.objects.filter(truck=truck).last().pk),
            "add_configuration": (machine.pk,),
            "edit_configuration": (
                machine.pk,
                Configuration.objects.filter(machine=machine).first().pk,
            ),
            "remove_configuration": (
                machine.pk,
                Configuration.objects.filter(machine=machine).last().pk,
            ),
            "change_role": (member.pk,),
            "remove_person": (member.pk,),
            "password_link": (member.pk,),
            "withdraw": (invitation.pk,),
            "go_to_yard": (self.yard.pk,),
            "weigh_by": ("gauge",),
            "weighed": (Ticket.objects.filter(yard=self.yard).first().pk,),
            "take_over_ticket": (Ticket.objects.filter(yard=self.yard).first().pk,),
        }
        needs = self.names()[name]
        args = given.get(name, (self.haul.pk,) if needs else ())
        return reverse(name, args=args)
