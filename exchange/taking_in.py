"""A yard file into a yard, whole or not at all."""

from __future__ import annotations

import base64
import binascii
from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any, cast

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import models

from book.history import keep, recorded
from book.models import Machine, Photo, Thing, Ticket
from book.services.intakes import Changed, last_changes, took_in
from book.services.photos import PhotoError, attach_encoded, encoded, refuse_more
from book.services.things import claim
from book.ticketfile import read_ticket
from book.tolerances import Tolerances
from book.yardfile import MAX_THINGS, SHAPES, YardFileError, listed, load_yard
from exchange.haul_entries import named, read_haul
from exchange.merging import SETTINGS, Choice, Chosen, ClashError, overlap, with_other_names
from hauls.intake import job_kept
from hauls.models import Haul
from hauls.road_rules import RoadRules
from longwork.running import Progress, no_progress
from mechanics.errors import MechanicsError
from mechanics.report import evaluate
from mechanics.ties import SecuringSchool
from planfile.draft import Draft
from planfile.errors import PlanFileError
from planfile.reading import read_rules
from yards.models import User, Yard


@dataclass(frozen=True, kw_only=True)
class _Prepared:
    """What of a file can be worked out without the yard, and takes long: plans with what is said
    of them, pictures encoded anew; in their places in the file, or what is wrong with each."""

    plans: list[tuple[Draft, str] | str]
    pictures: list[bytes | str]


def _prepared_entries(document: dict[str, Any], name: str) -> list[Any]:
    entries = document.get(name, [])
    return entries if isinstance(entries, list) and len(entries) <= MAX_THINGS else []


def _prepare(document: dict[str, Any], progress: Progress) -> _Prepared:
    hauls, photos = _prepared_entries(document, "hauls"), _prepared_entries(document, "photos")
    total = len(hauls) + len(photos)
    plans: list[tuple[Draft, str] | str] = []
    pictures: list[bytes | str] = []
    for entry in hauls:
        progress(len(plans), total)
        plans.append(_plan(entry))
    for entry in photos:
        progress(len(plans) + len(pictures), total)
        pictures.append(_picture(entry))
    return _Prepared(plans=plans, pictures=pictures)


def _plan(entry: Any) -> tuple[Draft, str] | str:
    if not isinstance(entry, dict) or not isinstance(entry.get("plan"), dict):
        return "expected a plan"
    try:
        draft = Draft.read(entry["plan"])
        return draft, evaluate(draft.plan).verdict.value
    except (PlanFileError, MechanicsError) as error:
        return str(error)


def _picture(entry: Any) -> bytes | str:
    if not isinstance(entry, dict):
        return "expected an object"
    try:
        data = base64.b64decode(str(entry.get("jpeg", "")), validate=True)
        return encoded(SimpleUploadedFile("photo.jpg", data))
    except (binascii.Error, ValueError, PhotoError) as error:
        return str(error)


def load_whole(
    document: dict[str, Any],
    *,
    yard: Yard,
    user: User,
    progress: Progress = no_progress,
    chosen: Mapping[str, Chosen] = MappingProxyType({}),
) -> dict[str, int]:
    """Bring a yard file into a yard, whole or not at all; how many of each came in.

    What the yard has exactly so stays as it is. What it has otherwise becomes what was ``chosen``
    for its place in the file. Plans and pictures are worked through before others are kept from
    writing; ``progress`` is told how many of them are done, and ends it by raising.

    Raises:
        YardFileError: with every place that is not right; nothing is stored.
        ClashError: something is there otherwise and nothing was chosen for it, or it has been
            changed since; nothing is stored.
    """
    prepared = _prepare(document, progress)
    kept: list[Photo] = []
    try:
        with recorded(yard=yard, user=user, why="Taken in from a yard file"):
            return _Merge(document, yard, user, chosen, kept).run(prepared)
    except Exception:
        # files are not undone by the database
        for photo in kept:
            photo.file.delete(save=False)
        raise


def counted_words(counted: Mapping[str, int]) -> str:
    """How many of each came in: ``45 entries, 17 hauls``; what did not come is not told."""
    return ", ".join(f"{n} {what}" for what, n in counted.items() if n) or "nothing"


class _Merge:
    """One yard file on its way into a yard, in the transaction that stores it."""

    def __init__(
        self,
        document: dict[str, Any],
        yard: Yard,
        user: User,
        chosen: Mapping[str, Chosen],
        kept: list[Photo],
    ) -> None:
        self.yard, self.user, self.kept = yard, user, kept
        self.found = overlap(document, yard, user.unit_system)
        # what nobody has decided is tried as if it stayed, so that all that is wrong is told first
        self.open = False
        self.choices: dict[str, Choice] = {}
        for clash in self.found.clashes:
            answer = chosen.get(clash.key)
            if answer is not None and answer.answers(clash):
                self.choices[clash.key] = answer.choice
            else:
                self.open, self.choices[clash.key] = True, Choice.MINE
        self.document = with_other_names(document, self._keys(Choice.BOTH), yard)
        self.leave = self.found.same | self._keys(Choice.MINE)
        self.problems: list[str] = []
        self.made: list[models.Model] = []
        self.changed: list[Changed] = []

        theirs = self._keys(Choice.THEIRS)
        self.onto = {key: row for key, row in self.found.mine.items() if key in theirs}
        stay = [row for key, row in self.found.mine.items() if key in self._keys(Choice.MINE)]
        self.stay = frozenset((type(row), row.pk) for row in stay)

    def _keys(self, choice: Choice) -> frozenset[str]:
        return frozenset(key for key, said in self.choices.items() if said is choice)

    def run(self, prepared: _Prepared) -> dict[str, int]:
        """All of it, in the order in which one thing speaks of another."""
        things = {key: row for key, row in self.onto.items() if isinstance(row, Thing)}
        kinds: dict[type[Thing], list[int]] = {}
        for thing in things.values():
            claim(thing, str(thing.version))
            kinds.setdefault(type(thing), []).append(thing.pk)
        back = {
            (kind, pk): change
            for kind, pks in kinds.items()
            for pk, change in last_changes(kind, pks).items()
        }
        loaded = load_yard(self.document, self.yard, self.problems, leave=self.leave, onto=things)
        self.made += loaded.made
        self.changed += [
            Changed(row=thing, back=back.get((type(thing), thing.pk))) for thing in loaded.changed
        ]
        hauls = self._hauls(prepared)
        tickets = self._tickets()
        self._photos(prepared, tickets)
        settings = self._settings()
        if self.problems:
            raise YardFileError(self.problems)
        if self.open:
            raise ClashError(self.found.clashes)
        for thing in (*loaded.made, *loaded.changed):
            keep(thing)
        counted = {
            "entries": len(loaded.made),
            "hauls": hauls,
            "photos": len(self.kept),
            **({"changed": len(self.changed)} if self.changed else {}),
            **({"here already": len(self.found.same)} if self.found.same else {}),
        }
        what = f"yard file: {counted_words(counted)}"
        took_in(
            yard=self.yard,
            user=self.user,
            what=what,
            made=[*self.made, *self.kept],
            changed=self.changed,
            settings=settings,
        )
        return counted

    def _hauls(self, prepared: _Prepared) -> int:
        """How many came new."""
        count = 0
        machines = frozenset(pk for kind, pk in self.stay if kind is Machine)
        for n, entry in enumerate(listed(self.document, "hauls", self.problems)):
            plan, path, key = prepared.plans[n], f"hauls[{n}]", f"hauls/{n}"
            if isinstance(plan, str):
                self.problems.append(f"{path}.plan: {plan}")
                continue
            if key in self.leave:
                continue
            read = read_haul(
                entry, plan, yard=self.yard, path=path, problems=self.problems, kept=machines
            )
            if read is None:
                continue
            there = self.onto.get(key)
            if there is None:
                count += 1
                self.made.append(read.store(yard=self.yard, user=self.user))
            else:
                job = job_kept(cast(Haul, there))
                haul = read.store_onto(cast(Haul, there), user=self.user)
                self.changed.append(Changed(row=haul, back={"step": haul.step, "job": job}))
        return count

    def _tickets(self) -> list[Ticket]:
        """Tickets of the file in their places, those that were here already among them."""
        tickets: list[Ticket] = []
        for n, entry in enumerate(listed(self.document, "tickets", self.problems)):
            if f"tickets/{n}" in self.leave:
                tickets.append(cast(Ticket, self.found.mine[f"tickets/{n}"]))
                continue
            read = read_ticket(
                entry,
                yard=self.yard,
                user=self.user,
                path=f"tickets[{n}]",
                problems=self.problems,
                before=tickets,
            )
            if read is not None:
                tickets.append(read.store())
                self.made.append(tickets[-1])
        return tickets

    def _photos(self, prepared: _Prepared, tickets: list[Ticket]) -> None:
        for n, entry in enumerate(listed(self.document, "photos", self.problems)):
            thing, picture, path = (
                _pictured(entry, self.yard, tickets),
                prepared.pictures[n],
                f"photos[{n}]",
            )
            if thing is None:
                self.problems.append(f"{path}: not a thing of the book")
            elif isinstance(picture, str):
                self.problems.append(f"{path}: {picture}")
            elif (type(thing), thing.pk) not in self.stay and not _has(thing, entry):
                self._attach(thing, picture, str(entry.get("caption", ""))[:120], path)

    def _attach(self, thing: Thing | Ticket, picture: bytes, caption: str, path: str) -> None:
        try:
            refuse_more(thing)
            self.kept.append(attach_encoded(thing, picture, caption=caption, user=self.user))
        except PhotoError as error:
            self.problems.append(f"{path}: {error}")

    def _settings(self) -> dict[str, tuple[Any, Any]]:
        """The yard's own figures and rules that become the file's: each before and after."""
        yard = self.yard
        before = {name: getattr(yard, name) for name in SETTINGS}
        for name, load in _SETTINGS.items():
            if name in self.document and f"yard/{name}" not in self.leave:
                load(self.document[name], yard, self.problems)
        after = {name: getattr(yard, name) for name in SETTINGS}
        return {
            name: (before[name], after[name]) for name in SETTINGS if before[name] != after[name]
        }


def _load_tolerances(own: Any, yard: Yard, problems: list[str]) -> None:
    try:
        read = Tolerances.read(own if isinstance(own, dict) else {"tolerances": own})
    except (ValueError, TypeError, ArithmeticError):
        problems.append(
            "tolerances: expected percents from 0 to 100, and masses and lengths such as “20 lb”, "
            "under known names"
        )
        return
    if own:
        yard.tolerances = read.own()
        yard.save(update_fields=["tolerances"])


def _load_rules(own: Any, yard: Yard, problems: list[str]) -> None:
    """The yard's schools, checked as the rules of a plan are."""
    try:
        read_rules(own)
    except (PlanFileError, MechanicsError) as error:
        problems.append(str(error))
        return
    if own:
        yard.rules = own
        yard.save(update_fields=["rules"])


def _load_road(own: Any, yard: Yard, problems: list[str]) -> None:
    """How the yard goes on the road; what of it cannot be read is as usual."""
    if not isinstance(own, dict):
        problems.append("road: expected an object, as the file of a yard has it")
    elif own:
        yard.road = RoadRules.read(own).own()
        yard.save(update_fields=["road"])


def _load_school(word: Any, yard: Yard, problems: list[str]) -> None:
    """The rule that the yard's ties are held against."""
    words = [school.value for school in SecuringSchool]
    if word not in ("", *words):
        problems.append(f"securing_school: expected one of {', '.join(words)}, or nothing")
    elif word:
        yard.securing_school = word
        yard.save(update_fields=["securing_school"])


def _pictured(entry: Any, yard: Yard, tickets: list[Ticket]) -> Thing | Ticket | None:
    """What a photo of the file is of: a thing by its name, or a ticket by its number."""
    if not isinstance(entry, dict):
        return None
    number = entry.get("ticket")
    if isinstance(number, int) and 0 <= number < len(tickets):
        return tickets[number]
    shape = SHAPES.get(entry.get("list", ""))
    found: Thing | None = named(shape.model, entry.get("name"), yard) if shape else None  # type: ignore[arg-type]
    return found


def _has(thing: Thing | Ticket, entry: dict[str, Any]) -> bool:
    """Whether the very picture hangs on it already."""
    data = base64.b64decode(str(entry.get("jpeg", "")))
    for photo in thing.photos.all():
        if photo.file.storage.exists(photo.file.name) and photo.file.size == len(data):
            with photo.file.open("rb") as file:
                if file.read() == data:
                    return True
    return False


_SETTINGS = {
    "tolerances": _load_tolerances,
    "rules": _load_rules,
    "securing_school": _load_school,
    "road": _load_road,
}
