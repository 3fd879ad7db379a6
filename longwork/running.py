"""Beginning, doing and ending long work.

It is done in a process of its own, so that pages stay quick while it goes on and nothing that it
does can end the server. It says twice a second how far it has come, and ends where its row says
that it was called off.
"""

from __future__ import annotations

import logging
import os
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta
from typing import Any, Final

from django.conf import settings
from django.core.files.base import ContentFile
from django.http import HttpResponse
from django.utils import timezone

from longwork.models import LongWork
from mechanics.patience import asked
from web.budget import TooLongError
from web.registry import brought
from yards.access import YardRequest
from yards.models import User, Yard

log = logging.getLogger(__name__)

TOLD_S: Final = 0.5
"""Seconds between two words of how far it has come."""

AT_ONCE: Final = 2
"""Pieces of long work on the whole server; another one is asked to come again."""

KEPT: Final = timedelta(days=1)
"""How long what was sent and what came of it are kept."""

Progress = Callable[[int, int], None]
"""Told how much is done, of how much; what it raises ends the work."""


def no_progress(done: int, total: int) -> None:
    """Nobody waits to be told."""


class BusyError(Exception):
    """There is enough of it already; the message says what to do."""


class GivenUpError(Exception):
    """It cannot be done; the message says why, and what to do."""


class CalledOffError(Exception):
    """Somebody called it off."""


@dataclass(frozen=True, kw_only=True)
class Kind:
    """A kind of long work that an app brings along as ``long_work.LONG_WORK``.

    ``run`` does it and gives what a JSON field can hold; ``answer`` is the page that shows it.
    """

    slug: str
    run: Callable[[LongWork, Progress], dict[str, Any]]
    answer: Callable[[YardRequest, LongWork], HttpResponse]
    seconds: float = 120.0
    too_long: str = "It is too large to be done at once. Do it in parts."


def kind_of(work: LongWork) -> Kind:
    """The kind of a piece of work."""
    kinds: tuple[Kind, ...] = brought("long_work", "LONG_WORK")
    return next(kind for kind in kinds if kind.slug == work.kind)


class _Told:
    """Says how far a piece of work has come, and ends it where it was called off."""

    def __init__(self, work: LongWork, seconds: float) -> None:
        self.pk, self.seconds = work.pk, seconds
        self.begun = self.last = time.monotonic()

    def __call__(self, done: int, total: int) -> None:
        self.in_time()
        if time.monotonic() - self.last < TOLD_S:
            return
        self.last = time.monotonic()
        going_on = LongWork.objects.filter(pk=self.pk, state=LongWork.State.RUNNING)
        if not going_on.update(done=done, total=total, heard_at=timezone.now()):
            raise CalledOffError

    def in_time(self) -> None:
        """Nothing, while there is time left."""
        if time.monotonic() - self.begun > self.seconds:
            raise TooLongError


def begin(
    *, kind: str, yard: Yard, user: User, title: str, data: bytes, asked_for: dict[str, Any]
) -> LongWork:
    """Begin a piece of long work.

    Raises:
        BusyError: the yard has one going on, or the server has enough of them.
    """
    sweep()
    going_on = [work for work in LongWork.objects.filter(state__in=LongWork.OPEN) if not work.quiet]
    own = next((work for work in going_on if work.yard_id == yard.pk), None)
    if own is not None:
        raise BusyError(
            f"“{own.title}” is still going on in your yard. Wait for it, or call it off."
        )
    if len(going_on) >= AT_ONCE:
        raise BusyError("The server is busy with other long work. Send it again in a minute.")
    work = LongWork(yard=yard, kind=kind, title=title, asked=asked_for, begun_by=user)
    work.file.save("sent", ContentFile(data), save=True)
    if settings.LONG_WORK_APART:
        _begin_apart(work)
    else:
        run(work)
    return work


def _begin_apart(work: LongWork) -> None:
    process = subprocess.Popen(  # noqa: S603
        [sys.executable, str(settings.BASE_DIR / "manage.py"), "long_work", str(work.pk)],
        cwd=settings.BASE_DIR,
        stdin=subprocess.DEVNULL,
        start_new_session=True,
    )
    # somebody has to hear that it ended, or the system keeps it
    threading.Thread(target=process.wait, daemon=True).start()


def run(work: LongWork) -> None:
    """Do a piece of work to its end, whatever that is, and keep what came of it."""
    waiting = LongWork.objects.filter(pk=work.pk, state=LongWork.State.WAITING)
    if not waiting.update(state=LongWork.State.RUNNING, heard_at=timezone.now()):
        return
    kind = kind_of(work)
    told = _Told(work, kind.seconds)
    state, said, result = LongWork.State.DONE, "", {}
    try:
        with asked(told.in_time):
            result = kind.run(work, told)
    except CalledOffError:
        state = LongWork.State.CANCELLED
    except GivenUpError as error:
        state, said = LongWork.State.FAILED, str(error)
    except TooLongError:
        state, said = LongWork.State.FAILED, kind.too_long
    except Exception:
        log.exception("long work %s of kind %s fell", work.pk, work.kind)
        state, said = LongWork.State.FAILED, "Something broke on our side. Nothing was stored."
    LongWork.objects.filter(pk=work.pk).update(
        state=state, said=said, result=result, heard_at=timezone.now()
    )
    work.refresh_from_db()


def call_off(work: LongWork) -> None:
    """End a piece of work; it hears of it within a second."""
    LongWork.objects.filter(pk=work.pk, state__in=LongWork.OPEN).update(
        state=LongWork.State.CANCELLED
    )


def be_modest() -> None:
    """Leave the processors to whoever waits for a page."""
    os.nice(5)


def sweep() -> None:
    """Take away what is a day old, with what was sent."""
    for work in LongWork.objects.filter(begun_at__lt=timezone.now() - KEPT):
        work.file.delete(save=False)
        work.delete()
