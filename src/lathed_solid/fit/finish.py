"""In what colour a member stands."""

from __future__ import annotations

from lathed_solid.fit.document import Fit, Member
from lathed_solid.standards import StandardError, material

#: of a part whose material is not known
PLAIN = "#9EA5A8"


def finish_of(fit: Fit, member: Member) -> str:
    """A member's own finish, else the colour of its part's material; #RRGGBB."""
    if member.finish:
        return member.finish
    try:
        return material(fit.by_part[member.part].document.material).finish_colour
    except (StandardError, KeyError):
        return PLAIN
