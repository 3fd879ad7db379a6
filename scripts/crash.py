"""Kill the application in the middle of its work, again and again: is what it answered kept?

``python -m scripts.crash KILLS`` makes a demo yard in a scratch folder. A child process sends the
application one writing request after another, as pages do, and says of each what it begins and
what the answer promised; after a random moment it is killed with signal 9, which no program can
catch. Then all that was promised has to be there, but for what had just been begun again; no photo
may lack its file, nothing a phone sends twice may be kept twice, and the database has to be whole.
"""

from __future__ import annotations

import json
import os
import random
import signal
import sys
import tempfile
import time
import uuid
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Final

ROOT = Path(__file__).resolve().parent.parent

LONGEST_S: Final = 0.25
"""Longest that a child works before it is killed, on a machine that is not slow or busy."""

PART: Final = 0.8
"""On a slow or busy one, this part of what it takes to do each kind of work once: many are killed
before they are answered, and some after."""


@dataclass(frozen=True, kw_only=True)
class Said:
    """A child begins with ``name``, or had its answer: by kind, whether it is there then."""

    name: str
    then: dict[str, bool]
    answered: bool


Say = Callable[[Said], None]


def set_up(folder: Path) -> None:
    """The application with a demo yard in the folder, its files on the disk."""
    os.environ.update(
        EYEBOLT_DATA=str(folder), EYEBOLT_HTTPS="0", DJANGO_SETTINGS_MODULE="eyebolt.settings"
    )
    os.chdir(ROOT)
    import django

    django.setup()
    from django.conf import settings
    from django.core.management import call_command

    settings.ALLOWED_HOSTS = ["testserver"]
    # found where they are: nothing has to be collected
    settings.STORAGES = {
        **settings.STORAGES,
        "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
    }
    call_command("migrate", verbosity=0, interactive=False)
    call_command("load_demo")


@contextmanager
def _promising(say: Say, name: str, **then: bool) -> Iterator[None]:
    """Say what a request begins, and that it was answered."""
    say(Said(name=name, then=then, answered=False))
    yield
    say(Said(name=name, then=then, answered=True))


def work(say: Say, seed: int) -> None:
    """Send writing requests for ever; each is said before it is sent and when it is answered."""
    from django.core.files.uploadedfile import SimpleUploadedFile
    from django.test import Client

    from book.models import Machine, Photo
    from demo.plate import plate_photo
    from hauls.models import Haul
    from yards.models import User

    client, user = Client(raise_request_exception=True), User.objects.get(username="demo")
    client.force_login(user)
    haul = Haul.objects.filter(yard__members=user).earliest("pk")
    picture, n = plate_photo(("CRASH",)).read(), 0
    while True:
        n += 1
        name = f"Machine {seed}-{n}"
        typed = {
            "name": name,
            "shape": "tractor",
            "built": "whole",
            "mass": "3000 lb",
            "mass_known": "weighed",
            "balance_known": "guess",
            "running": "wheels",
            "mark_name": "rear axle",
            "hung": "nothing",
        }
        lists = ("parts", "points")
        typed |= {f"{one}-TOTAL_FORMS": "0" for one in lists}
        typed |= {f"{one}-INITIAL_FORMS": "0" for one in lists}
        with _promising(say, name, machine=True):
            answer = client.post("/book/machines/new/", typed)
            if answer.status_code != 302:
                raise RuntimeError(f"a machine was refused: {answer.status_code}")
        machine = Machine.objects.get(name=name)
        file = SimpleUploadedFile("p.jpg", picture)
        with _promising(say, name, photo=True):
            client.post(f"/book/machines/{machine.pk}/photos/", {"file": file, "caption": name})
        # as a phone sends what waited, and again where it heard no answer: kept once
        key = str(uuid.uuid5(uuid.NAMESPACE_OID, name))
        trip = {"trip-driven_on": "2026-05-04", "trip-carried": "loaded", "trip-distance": "9 mi"}
        headers = {"Eyebolt-Once": key, "Eyebolt-Person": str(user.pk), "HX-Request": "true"}
        with _promising(say, name, trip=True):
            for _ in range(2):
                client.post(
                    f"/hauls/{haul.pk}/road/trip/", {**trip, "trip-note": name}, headers=headers
                )
        if n % 3 == 0:
            photo = Photo.objects.get(caption=name)
            with _promising(say, name, photo=False):
                client.post(f"/book/photos/{photo.pk}/remove/")
        if n % 4 == 0:
            machine.refresh_from_db()
            page = f"/book/machines/{machine.pk}/remove/"
            with _promising(say, name, machine=False, photo=False):
                client.post(page, {"version": machine.version})


class _WarmError(Exception):
    """Everything that a child needs is loaded."""


def warm(seed: int) -> None:
    """Do each kind of work once, so that the children lose no time with loading."""

    def say(said: Said) -> None:
        if said.answered and said.then.get("machine") is False:
            raise _WarmError

    try:
        work(say, seed)
    except _WarmError:
        return


def once(seed: int, after_s: float) -> list[Said]:
    """One life of a child; what it said before it was killed."""
    from django.db import connections

    connections.close_all()
    mine, its = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(mine)
        try:
            work(lambda said: _say(its, said), seed)
        finally:
            # a fault of the work's own: it is said by the child's end
            os._exit(3)
    os.close(its)
    time.sleep(after_s)
    os.kill(child, signal.SIGKILL)
    _, status = os.waitpid(child, 0)
    if not os.WIFSIGNALED(status):
        raise RuntimeError("the application fell by itself")
    with os.fdopen(mine, "rb") as heard:
        lines = heard.read().split(b"\n")
    return [Said(**json.loads(line)) for line in lines[:-1]]


def _say(pipe: int, said: Said) -> None:
    os.write(pipe, json.dumps(asdict(said)).encode() + b"\n")


def missing(told: list[Said]) -> list[str]:
    """What was promised and is not so, of all that a child told."""
    from django.conf import settings

    from book.models import Machine, Photo
    from eyebolt.data_folder import check_database
    from road.models import Trip

    check_database(settings.DATA_DIR)
    then: dict[tuple[str, str], bool] = {}
    for said in told:
        for what, there_then in said.then.items():
            if said.answered:
                then[what, said.name] = there_then
            else:
                # what is under way may be done or not until it is answered
                then.pop((what, said.name), None)
    photos = {photo.caption: photo for photo in Photo.objects.all()}
    trips = Counter(Trip.objects.exclude(note="").values_list("note", flat=True))
    there = {
        "machine": set(Machine.objects.values_list("name", flat=True)),
        "photo": set(photos),
        "trip": set(trips),
    }
    wrong = [
        f"{what} {name}: promised {'there' if kept else 'gone'}"
        for (what, name), kept in then.items()
        if (name in there[what]) != kept
    ]
    wrong += [
        f"photo {name} has no file"
        for name, photo in photos.items()
        if not Path(photo.file.path).is_file()
    ]
    return wrong + [f"trip {name} kept {times} times" for name, times in trips.items() if times > 1]


def crash(kills: int, folder: Path, *, seed: int = 1) -> tuple[int, list[str]]:
    """Kill so often; how many promises were made in all, and what of them was broken."""
    set_up(folder)
    warm(-1)
    begun = time.monotonic()
    warm(-2)
    longest = max(LONGEST_S, PART * (time.monotonic() - begun))
    rng = random.Random(seed)  # noqa: S311 moments, not secrets
    made, wrong = 0, []
    for n in range(kills):
        told = once(n, rng.uniform(0.02, longest))
        made += sum(said.answered for said in told)
        wrong += missing(told)
    return made, wrong


def main() -> None:
    """Print what came of it; fail where a promise was broken."""
    kills = int(sys.argv[1]) if len(sys.argv) > 1 else 1000
    with tempfile.TemporaryDirectory() as folder:
        made, wrong = crash(kills, Path(folder) / "data")
    print(f"{kills} kills, {made} answered writes, {len(wrong)} lost or half done")
    if wrong or made < kills / 5:
        sys.exit("\n".join(wrong[:20]) or "too few writes were answered to say anything")


if __name__ == "__main__":
    main()
