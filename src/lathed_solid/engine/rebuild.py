"""Building a document: steps in order, each cached by the chain of hashes before it.

The key of a step is the hash of its kind, its resolved figures and the key of the body it stands on, so an
edit rebuilds only what it touches. A step that fails leaves the body as it was; the steps after it are
tried on that, and report their own failure if they needed it.
"""

from __future__ import annotations

import hashlib
import json
import time
from collections import OrderedDict
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from lathed_solid.engine.results import StepResult
from lathed_solid.errors import LathedError
from lathed_solid.kernel.builders import builder_of
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.kept import Kept
from lathed_solid.kernel.look import Look
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.properties import (
    FaceFigures,
    Properties,
    exact_share,
    face_share,
    plainly_integrated,
    properties,
    sign_of,
    volume,
)
from lathed_solid.kernel.topology import Key
from lathed_solid.kernel.triangles import Meshed
from lathed_solid.part import Document, Scope, SketchStep, StepBase, scope
from lathed_solid.proof import Report
from lathed_solid.quantity.message_units import speaking, unadvised

#: bodies and figures that are kept at least, and for each step of the part that is built: a route longer than the
#: cache would be built anew from its beginning at each edit
CACHE_SIZE, CACHE_STEPS = 300, 2
CACHE_VERSION = "2"

#: called with (step number, row from 0, number of steps) before each step
Progress = Callable[[int, int, int], None]


@dataclass(frozen=True)
class Built:
    """What the last good steps made, and the result of every step. ``key`` identifies the content."""

    parts: Parts
    steps: tuple[StepResult, ...]
    key: str
    #: what there was before each sketch, by step number
    before: Mapping[int, Parts] = field(default_factory=dict)

    @property
    def body(self) -> Body | None:
        """All bodies as one named shape."""
        return self.parts.whole

    @property
    def ok(self) -> bool:
        """Whether every step was built, or is suspended."""
        return all(s.ok for s in self.steps)


class Engine:
    """Builds documents with a cache of bodies. One engine a process; not for several threads."""

    def __init__(self) -> None:
        self._most = CACHE_SIZE
        self._parts: OrderedDict[str, Parts] = OrderedDict()
        self._properties: OrderedDict[str, Properties] = OrderedDict()
        #: what the faces of the last body add to its figures, by body (0: all together)
        self._faces: dict[int, FaceFigures] = {}
        #: triangles of the last body that was shown
        self.meshed = Meshed()
        #: measurements of the last body
        self.kept = Kept()
        #: the last proof, with the build and the document that it is of, and the solid as it was looked at
        self.proved: tuple[str, Document, Report, Look | None] | None = None
        #: what the plain rule is off by on the faces of the last body, by body
        self._mended: dict[int, dict[Key, float]] = {}
        #: what expressions of the last document meant, and the steps resolved with it: figures and their text
        self._meant: tuple[object, ...] = ()
        self._resolved: dict[int, tuple[StepBase, Any, str]] = {}

    def build(self, document: Document, progress: Progress | None = None) -> Built:
        """All steps of ``document``. Failures are results, not exceptions, told in the document's unit."""
        with speaking(document.unit):
            return self._build(document, progress, whole=True)

    def attempt(self, document: Document) -> Built:
        """All steps up to the first that fails, without advice on what would fit: for one of many trials."""
        with unadvised():
            return self._build(document, None, whole=False)

    def _build(self, document: Document, progress: Progress | None, *, whole: bool) -> Built:
        self._most = max(CACHE_SIZE, CACHE_STEPS * len(document.steps))
        parts = Parts()
        key = CACHE_VERSION
        results: list[StepResult] = []
        before: dict[int, Parts] = {}
        try:
            evaluate = scope(document)
        except LathedError as exc:
            failed = tuple(StepResult(s.number, s.kind, False, 0.0, exc.message) for s in document.steps)
            return Built(parts, failed, key)
        sketches = tuple(s for s in document.steps if isinstance(s, SketchStep))
        meant = (evaluate.unit, evaluate.names, sketches)
        if meant != self._meant:
            self._meant, self._resolved = meant, {}
        for row, step in enumerate(document.steps):
            if step.suspended:
                results.append(StepResult(step.number, step.kind, True, 0.0, suspended=True))
                continue
            if progress is not None:
                progress(step.number, row, len(document.steps))
            if isinstance(step, SketchStep):
                before[step.number] = parts
            parts, key, result = self._step(step, parts, key, evaluate)
            results.append(result)
            if not (result.ok or whole):
                break
        return Built(parts, tuple(results), key, before)

    def _step(self, step: StepBase, parts: Parts, key: str, evaluate: Scope) -> tuple[Parts, str, StepResult]:
        start = time.perf_counter()
        kind = step.kind

        def result(ok: bool, message: str = "", cached: bool = False, **more: Any) -> StepResult:
            ms = (time.perf_counter() - start) * 1000
            return StepResult(step.number, kind, ok, ms, message, cached, **more)

        try:
            if isinstance(step, SketchStep):
                evaluate.sketch(step.number)  # solved once for the document, whoever asks
                return parts, key, result(True)
            build = builder_of(kind)
            if build is None:
                words = f"this version does not know the step kind {kind!r}; it is kept as it is"
                return parts, key, result(False, words)
            figures, text = self._figures(step, evaluate)
            new_key = chain_hash(key, kind, step.number, text)
            cached = self._parts.get(new_key)
            if cached is None:
                cached = build(parts, figures, step.number)
                _remember(self._parts, new_key, cached, self._most)
                return cached, new_key, result(True, **_figures_of(cached))
            self._parts.move_to_end(new_key)
            return cached, new_key, result(True, cached=True, **_figures_of(cached))
        except BuildError as exc:
            return parts, key, result(False, exc.message, candidates=exc.candidates, missing=exc.missing)
        except LathedError as exc:
            return parts, key, result(False, exc.message)
        except Exception as exc:  # noqa: BLE001 - the kernel raises bare Exceptions of its own
            return parts, key, result(False, f"the geometry kernel failed: {exc}")

    def _figures(self, step: StepBase, evaluate: Scope) -> tuple[Any, str]:
        """The step's figures, and the same as text; kept for as long as its expressions mean the same."""
        known = self._resolved.get(id(step))
        if known is not None and known[0] is step:
            return known[1], known[2]
        evaluate.looked = False
        figures = step.resolve(evaluate)
        text = json.dumps(figures, sort_keys=True, default=_fields)
        if not evaluate.looked:
            if len(self._resolved) > CACHE_SIZE * 4:
                self._resolved.clear()
            self._resolved[id(step)] = (step, figures, text)
        return figures, text

    def properties(self, built: Built) -> Properties | None:
        """Exact figures of the body, cached by content."""
        if built.body is None:
            return None
        if built.key not in self._properties:
            figures = properties(built.body.shape, self._faces.setdefault(0, {}))
            _remember(self._properties, built.key, figures, self._most)
        return self._properties[built.key]

    def volumes(self, built: Built) -> dict[int, float]:
        """Exact volume of each body, mm3, by the step that began it.

        Building has summed the faces' shares by a rule that is exact on most faces; only the others, and of these only
        those that an edit made anew, are integrated again.
        """
        out = {}
        for n, body in built.parts.bodies.items():
            total = body.size
            known, mended = self._mended.get(n, {}), {}
            for key in body.shares:
                more = known.get(key)
                mended[key] = more = _mended(key.shape) if more is None else more
                if more:
                    total += sign_of(key.shape) * more
            self._mended[n] = mended
            out[n] = total if body.shares else volume(body.shape)
        return out

    def body_properties(self, built: Built) -> dict[int, Properties]:
        """Exact figures of each body, by the step that began it."""
        if len(built.parts.bodies) <= 1:
            whole = self.properties(built)
            return {} if whole is None else dict.fromkeys(built.parts.bodies, whole)
        out = {}
        for n, body in built.parts.bodies.items():
            key = f"{built.key} {n}"
            if key not in self._properties:
                figures = properties(body.shape, self._faces.setdefault(n, {}))
                _remember(self._properties, key, figures, self._most)
            out[n] = self._properties[key]
        return out


def _mended(face: Any) -> float:
    """What the plain rule is off by on a face, taken as facing forward, mm3."""
    if plainly_integrated(face):
        return 0.0
    return sign_of(face) * (exact_share(face) - face_share(face))


def _figures_of(parts: Parts) -> dict[str, Any]:
    bodies = parts.bodies.values()
    return {"volume_mm3": sum(body.size for body in bodies), "pieces": max((body.pieces for body in bodies), default=1)}


def chain_hash(before: str, kind: str, number: int, figures: str) -> str:
    """SHA-256 over the key before, the kind, the number (names carry it) and the resolved figures as text."""
    return hashlib.sha256(f"{before} {kind} {number} {figures}".encode()).hexdigest()


def _fields(figures: Any) -> dict[str, Any]:
    """A dataclass by its fields, one level: the encoder asks again for what is inside."""
    return {name: getattr(figures, name) for name in figures.__dataclass_fields__}


def _remember(cache: OrderedDict, key: str, value: object, most: int) -> None:
    cache[key] = value
    while len(cache) > most:
        cache.popitem(last=False)
