"""A wall beside a hole that is thinner than walls are meant to be."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import length


class ThinWall(BaseModel):
    """Between the wall of a hole of ``radius`` and another face; ``thickness`` zero or less where it breaks out; mm."""

    model_config = ConfigDict(frozen=True)

    first: str
    second: str
    thickness: float
    radius: float

    def words(self, unit: LengthUnit) -> str:
        """What is to be looked at."""
        if self.thickness <= 0:
            return f"the hole {self.first} breaks out at {self.second}"
        return f"the wall between {self.first} and {self.second} is {length(self.thickness, unit)} {unit} thin"
