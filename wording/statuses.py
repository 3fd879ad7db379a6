"""The word for a status, a check's, a report's."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from mechanics.checks import Check, Status
from mechanics.codes import Family
from mechanics.report import Report
from mechanics.standing import is_sure

STATUS_WORDS: Final = {
    Status.OVER: "over",
    Status.NEAR: "near",
    Status.OK: "ok",
    Status.UNKNOWN: "cannot say",
}

LIKELY: Final = "likely"
"""What is said before a word that rests on estimates."""

UNDER: Final = "under"
"""What is said of a share that falls below the least: too little is not over."""


def status_word(check: Check, *, likely: bool = False) -> str:
    """The word for a check's status; below a least share it is *under*, not over. ``likely``:
    it is so for the figures as estimated, and not for all within their bands."""
    if check.status is Status.UNKNOWN:
        return STATUS_WORDS[check.status]
    if likely:
        passed = check.status is Status.OVER
        return f"{LIKELY} {_passed_word(check) if passed else STATUS_WORDS[Status.OK]}"
    return _passed_word(check) if check.status is Status.OVER else STATUS_WORDS[check.status]


def _passed_word(check: Check) -> str:
    return UNDER if check.about.family is Family.SHARE_MIN else STATUS_WORDS[Status.OVER]


@dataclass(frozen=True, kw_only=True, slots=True)
class Verdict:
    """A report's verdict as it is shown: what it is drawn as, its word, and whether it rests on
    where estimated figures lie in their bands."""

    status: Status
    word: str
    likely: bool = False


DO_NOT: Final = "Do not haul it like this."
WEIGH_FIRST: Final = "Weigh what is estimated before it is hauled."


def before_hauling(verdict: Verdict) -> str:
    """What has to be said to whoever hauls it; empty where nothing is over."""
    if verdict.status is not Status.OVER:
        return ""
    return WEIGH_FIRST if verdict.likely else DO_NOT


def verdict_of(report: Report) -> Verdict:
    """The verdict: *under* where a share too small is all that is wrong; *likely* where figures
    that nobody measured decide; else not simply *ok* where a load stands right as entered only.

    What is passed whatever the estimates are comes first, then what is likely passed, then what
    cannot be said.
    """
    over = [c for c in report.checks if c.status is Status.OVER]
    settled = [c for c in over if c.code not in report.unsettled]
    if over:
        words = {_passed_word(c) for c in settled or over}
        word = UNDER if words == {UNDER} else STATUS_WORDS[Status.OVER]
        if settled:
            return Verdict(status=Status.OVER, word=word)
        return Verdict(status=Status.OVER, word=f"{LIKELY} {word}", likely=True)
    word = STATUS_WORDS[report.verdict]
    if report.verdict is Status.UNKNOWN:
        return Verdict(status=report.verdict, word=word)
    sure = all(is_sure(report, index) for index in range(len(report.plan.items)))
    if report.plan.estimated and (report.unsettled or not sure):
        ok = STATUS_WORDS[Status.OK]
        return Verdict(status=Status.OK, word=f"{LIKELY} {ok}", likely=True)
    return Verdict(status=report.verdict, word=word if sure else f"{word} as entered")
