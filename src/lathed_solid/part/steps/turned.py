"""The turned table as a step: usually step 10, the body of a turned part."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from lathed_solid.ledger import Probe
from lathed_solid.ledger.probe import ProbeKind
from lathed_solid.part.steps.base import FieldOf, StepBase
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.quantity.message_units import speaking
from lathed_solid.turned import Edge, HalfSection, Station, TurnedTable, half_section


class TurnedStep(StepBase):
    """Revolves the half section of ``table`` about the part's axis (X, left face at X = 0)."""

    kind: Literal["turned"] = "turned"
    table: TurnedTable = TurnedTable()

    def title(self) -> str:
        return "Turned table"

    def resolve(self, evaluate: Resolver) -> HalfSection:
        """The closed half section in mm. Raises TableError, telling sizes in the sheet's unit."""
        with speaking(evaluate.unit):
            return half_section(self.table, evaluate)

    def fields(self) -> tuple[FieldOf, ...]:
        return (*self._station_fields(), *self._groove_fields(), *self._bore_fields())

    def probe(self, kind: ProbeKind, *faces: str) -> Probe:
        return Probe(kind=kind, faces=tuple(f"{self.number}/{f}" for f in faces))

    def _station_fields(self) -> Iterator[FieldOf]:
        stations = self.table.stations
        for i, s in enumerate(stations):
            where = f"station {i + 1}"
            near = "face.left" if i == 0 else f"shoulder.{stations[i - 1].key}"
            far = "face.right" if i == len(stations) - 1 else f"shoulder.{s.key}"
            surface = f"s{s.key}"
            if s.taper:
                before = [f"s{stations[i - 1].key}"] if i else []
                start = self.probe("diameter_at", surface, near, *before)
                yield FieldOf(f"{where} diameter", s.diameter, "length", start)
                after = [f"s{stations[i + 1].key}"] if i + 1 < len(stations) else []
                yield from self._taper_fields(s, where, surface, far, after)
            else:
                round_face = self.probe("thread_major" if s.thread else "diameter", surface)
                yield FieldOf(f"{where} diameter", s.diameter, "length", round_face)
            if s.length is not None:
                yield FieldOf(
                    f"{where} length", s.length, "length", self.probe("stretch", surface, near, far, f"{surface}>**")
                )
            if s.to is not None:
                datum, end = ("face.left", far) if self.table.datum == "left" else ("face.right", near)
                yield FieldOf(
                    f"{where} far shoulder", s.to, "length", self.probe("stretch", surface, datum, end, f"{surface}>**")
                )
            yield from self._edge_fields(s.left, f"{where} left edge", f"{surface}.left", surface, near)
            yield from self._edge_fields(s.right, f"{where} right edge", f"{surface}.right", surface, far)
            if s.thread and s.thread.length:
                yield FieldOf(f"{where} thread length", s.thread.length, "length", self.probe("thread_length", surface))

    def _taper_fields(self, s: Station, where: str, surface: str, far: str, after: list[str]) -> Iterator[FieldOf]:
        assert s.taper is not None
        if s.taper.kind == "diameter":
            yield FieldOf(
                f"{where} end diameter", s.taper.value, "length", self.probe("diameter_at", surface, far, *after)
            )
        elif s.taper.kind == "angle":
            yield FieldOf(f"{where} half angle", s.taper.value, "angle", self.probe("cone_angle", surface))
        else:
            yield FieldOf(f"{where} taper ratio", s.taper.value, "number", self.probe("taper", surface))

    def _edge_fields(self, edge: Edge | None, where: str, face: str, surface: str, wall: str) -> Iterator[FieldOf]:
        """The leg lies along ``surface``, the bevel runs to ``wall``."""
        if edge is None:
            return
        if edge.kind == "radius":
            yield FieldOf(where, edge.size, "length", self.probe("radius", face))
        else:
            yield FieldOf(where, edge.size, "length", self.probe("leg", face, surface, wall))
            yield FieldOf(f"{where} angle", edge.angle, "angle", self.probe("bevel_angle", face, surface, wall))

    def _groove_fields(self) -> Iterator[FieldOf]:
        left = self.table.datum == "left"
        datum = "face.left" if left else "face.right"
        for i, g in enumerate(self.table.grooves, 1):
            wall = f"{g.key}.near" if left else f"{g.key}.far"
            yield FieldOf(f"groove {i} place", g.at, "length", self.probe("distance", datum, wall))
            walls = self.probe("distance", f"{g.key}.near", f"{g.key}.far")
            yield FieldOf(f"groove {i} width", g.width, "length", walls)
            yield FieldOf(f"groove {i} diameter", g.diameter, "length", self.probe("diameter", f"{g.key}.bottom"))

    def _bore_fields(self) -> Iterator[FieldOf]:
        for bore in self.table.bores:
            for i, step in enumerate(bore.steps, 1):
                where, face = f"bore {bore.end} step {i}", f"bore.{bore.end}.{i}"
                entry = f"face.{bore.end}"
                if step.end_diameter is None:
                    yield FieldOf(f"{where} diameter", step.diameter, "length", self.probe("diameter", face))
                else:
                    base, many = f"bore.{bore.end}", len(bore.steps)
                    before = (entry,) if i == 1 else (f"{base}.{i - 1}.floor", f"{base}.{i - 1}")
                    other = "face.left" if bore.end == "right" else "face.right"
                    after = f"{base}.{i + 1}" if i < many else other if step.depth is None else f"{base}.tip"
                    start = self.probe("diameter_at", face, *before)
                    end = self.probe("diameter_at", face, f"{face}.floor", after)
                    yield FieldOf(f"{where} diameter", step.diameter, "length", start)
                    yield FieldOf(f"{where} end diameter", step.end_diameter, "length", end)
                if step.depth is not None:
                    yield FieldOf(f"{where} depth", step.depth, "length", self.probe("depth", entry, face))
            if bore.point is not None:
                tip = self.probe("included", f"bore.{bore.end}.tip")
                yield FieldOf(f"bore {bore.end} point angle", bore.point, "angle", tip)
            mouth = f"bore.{bore.end}.mouth"
            yield from self._edge_fields(
                bore.mouth, f"bore {bore.end} mouth", mouth, f"bore.{bore.end}.1", f"face.{bore.end}"
            )
