"""The share gauge: a bar from nothing to past the school's range, its band and a pointer."""

from __future__ import annotations

from dataclasses import dataclass

from mechanics.report import Report


@dataclass(frozen=True, kw_only=True, slots=True)
class ShareScale:
    """Places on the bar in percent of its width."""

    band_x: float
    band_width: float
    pointer: float

    @property
    def pointer_x(self) -> float:
        """Where the pointer's left edge stands."""
        return self.pointer - 0.5


def share_scale(report: Report) -> ShareScale:
    """The gauge of a report; a share beyond the bar stands at its edge."""
    least, greatest = report.plan.share_range
    top = max(greatest * 1.5, least + 0.01, 0.05)
    share = report.loads.trailer.share
    return ShareScale(
        band_x=least / top * 100,
        band_width=(greatest - least) / top * 100,
        pointer=min(max(share / top, 0.0), 1.0) * 100,
    )
