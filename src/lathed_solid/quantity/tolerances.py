"""How near is the same: one name for each kind of nearness, so that a reader sees which one is meant.

Sizes are mm and rad unless they are relative. What a domain tells apart more finely or more coarsely (ends of sketch
curves, the kernel's vertices, a verdict's slack) has a name of its own where it is used.
"""

from __future__ import annotations

#: places nearer than this are one, mm; the geometry kernel keeps its own vertices within a tenth of it
LINEAR = 1e-6
#: sizes that differ by less differ by the rounding of double arithmetic alone, mm (at 10 m it is 2e-12 a step)
ROUNDING = 1e-9
#: directions nearer than this are parallel or square, rad; also what a product of unit vectors may be off by
ANGULAR = 1e-9
#: of a size: rounding alone, after some hundred operations
RELATIVE = 1e-9
#: of a size: what was integrated, solved for or drawn by hand
RELATIVE_READ = 1e-6
#: less than this has no direction and cannot be divided by
NOTHING = 1e-12
