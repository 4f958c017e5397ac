"""Made-up parts of the winch as a draughtsman gives them, entered from their notes without pointing at anything."""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.part import Document
from practice import adjusting_screw, block_pulley_ring, pawl_link, stop_bracket, vice_base

PARTS: dict[str, Callable[[], Document]] = {
    "pawl link": pawl_link.pawl_link, "stop bracket": stop_bracket.stop_bracket, "vice base": vice_base.vice_base,
    "cover block": block_pulley_ring.cover_block, "hand pulley": block_pulley_ring.hand_pulley,
    "adjusting screw": adjusting_screw.adjusting_screw, "roller ring": block_pulley_ring.roller_ring,
}  # fmt: skip
