"""The word for a status, a check's, a report's."""

from __future__ import annotations

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

UNDER: Final = "under"
"""What is said of a share that falls below the least: too little is not over."""


def status_word(check: Check) -> str:
    """The word for a check's status; below a least share it is *under*, not over."""
    if check.status is Status.OVER and check.about.family is Family.SHARE_MIN:
        return UNDER
    return STATUS_WORDS[check.status]


def verdict_word(report: Report) -> str:
    """The word for a report's verdict: *under* where a share too small is all that is wrong,
    and not simply *ok* where a load stands right as entered only."""
    words = {status_word(c) for c in report.checks if c.status is Status.OVER}
    word = UNDER if words == {UNDER} else STATUS_WORDS[report.verdict]
    unsure = not all(is_sure(report, index) for index in range(len(report.plan.items)))
    if report.verdict in (Status.OK, Status.NEAR) and unsure:
        return f"{word} as entered"
    return word
