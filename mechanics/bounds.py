"""How large anything of an outfit may be at all: figures past these are slips of the pen.

One home for pages, tables and files: plans are held against them where they are made, and what is
typed in a box where it is read.
"""

from __future__ import annotations

from typing import Final

LONGEST_M: Final = 100.0
"""Longest deck, reach or distance; road trains are half as long."""

HEAVIEST_KG: Final = 500_000.0
"""Heaviest mass of anything; no trailer of this kind carries a tenth of it."""

LARGEST_M3: Final = 1_000.0
"""Largest volume of anything loaded or filled."""

DENSEST_KG_M3: Final = 25_000.0
"""Nothing on earth is denser."""

FARTHEST_M: Final = 10_000_000.0
"""Farthest way of one trip; a quarter of the way round the earth."""

FASTEST_M_S: Final = 70.0
"""Faster than any trailer is pulled."""

HARDEST_PA: Final = 1_500_000.0
"""Hardest tire; twice what a truck's is."""

MOST_ITEMS: Final = 60
"""Loads of one haul: so many can still be drawn, moved and read."""
