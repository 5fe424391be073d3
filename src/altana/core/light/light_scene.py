"""What light meets on its way: surfaces that throw it back, panes that take a part of it, and what smooth
things mirror of it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.geometry.cross import crossed
from altana.core.geometry.rays import RayScene
from altana.core.geometry.shells import outsides
from altana.core.light.frosted import FROSTED_PASSES, looked_through
from altana.core.light.gloss import Gloss, gloss_of
from altana.core.light.lines import Lines
from altana.core.light.panes import Panes, panes_of
from altana.core.light.seen import START_M
from altana.core.model import Model


@dataclass(frozen=True, slots=True)
class Surfaces:
    """Per triangle: ``normal`` (m, 3), which side is ``outside`` (m,), its ``owner`` (m,) and ``albedo``
    (m, 3); of what is ``frosted`` (m,) that is the share of the light on its other side.  ``gloss`` : what of
    them is smooth."""

    normal: Floats32
    outside: npt.NDArray[np.int8]
    owner: Ints
    albedo: Floats32
    frosted: Bools
    gloss: Gloss | None = None

    def met(self, face: Ints32, out: Floats32) -> tuple[Bools, Bools]:
        """Of rays (…, 3) that meet triangles (…,), -1 for none: whether from behind, and whether from within
        a body."""
        known = np.maximum(face, 0)
        behind = (np.einsum("...k,...k->...", self.normal[known], out) > 0.0) & (face >= 0)
        sense = self.outside[known]
        return behind, np.where(behind, sense > 0, sense < 0) & (face >= 0)


@dataclass(frozen=True, slots=True)
class LightScene:
    """What of a model light meets.  ``rays`` meet all that is no clear pane, ``whole`` all there is."""

    rays: RayScene
    whole: RayScene
    panes: Panes | None
    surfaces: Surfaces

    @classmethod
    def of(cls, model: Model, albedo: Floats) -> LightScene:
        """albedo : (materials, 3) linear reflectances."""
        pane, frosted, clear = looked_through(model)
        rays = RayScene.of(model, chosen=~clear[model.face_material])
        surfaces = _surfaces_of(model, albedo, pane, frosted, outsides(model))
        whole = RayScene.of(model) if clear.any() else rays
        return cls(rays, whole, panes_of(model, pane & ~frosted, surfaces.normal), surfaces)

    def onward(self, lines: Lines) -> Lines:
        """Rays less what panes keep of them, and beside them those that go on from what mirrors."""
        if self.surfaces.gloss is not None:
            lines = self._gone_on(lines, self.surfaces.gloss)
        return lines if self.panes is None else self._behind_panes(lines, self.panes)

    def _behind_panes(self, lines: Lines, panes: Panes) -> Lines:
        """Rays less what panes keep of them, and beside them what the panes mirror: a window gives a room
        some of its own light back."""
        crossed = panes.crossed(lines.origin, lines.out, lines.run)
        through = replace(lines, passed=lines.passed * crossed.passed)
        at = np.flatnonzero(crossed.face >= 0)
        if not len(at):
            return through
        out, run, face = lines.out[at], crossed.run[at], crossed.face[at]
        back = panes.sent_back(face, out)
        normal = panes.normal[face]
        off = np.where(np.einsum("ij,ij->i", normal, out) < 0.0, np.float32(START_M), np.float32(-START_M))
        start = lines.origin[at] + out * run[:, None] + normal * off[:, None]
        hits = self.rays.meet(start, back, alone=True)
        behind, inner = self.surfaces.met(hits.face, back)
        far = hits.distance_m.astype(np.float32)
        # Whether this goes through yet another window would not be seen.
        left = np.repeat(crossed.mirrored[at, None] * lines.passed[at], crossed.passed.shape[1], axis=1)
        mirrored = Lines(lines.group[at], start, back, hits.face, far, behind, left, np.zeros(len(at), bool))
        return through.and_(mirrored.only(~inner))

    def _gone_on(self, lines: Lines, gloss: Gloss) -> Lines:
        """Rays, and beside them those that go on from what is smooth."""
        normal = self.surfaces.normal[np.maximum(lines.face, 0)]
        at, out, counts = gloss.mirrored(lines.face, normal, lines.origin, lines.out)
        if not len(at):
            return lines
        before = np.sign(np.einsum("ij,ij->i", normal[at], out))[:, None] * np.float32(START_M)
        start = lines.origin[at] + lines.out[at] * lines.run[at, None] + normal[at] * before
        hits = self.rays.meet(start, out, alone=True)
        behind, inner = self.surfaces.met(hits.face, out)
        far = hits.distance_m.astype(np.float32)
        aside = np.zeros(len(at), bool)
        onward = Lines(lines.group[at], start, out, hits.face, far, behind, counts[:, None], aside)
        return lines.and_(onward.only(~inner))


def normals_of(model: Model, faces: npt.NDArray[np.intp]) -> Floats:
    a, b, c = (model.vertices[model.faces[faces, k]].astype(float) for k in range(3))
    normal = crossed(b - a, c - a)
    unit: Floats = normal / np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-20)
    return unit


def _surfaces_of(
    model: Model, albedo: Floats, pane: Bools, frosted: Bools, sense: npt.NDArray[np.int8]
) -> Surfaces:
    shown = np.clip(albedo, 0.0, 0.92)
    shown[frosted] *= FROSTED_PASSES
    normal = normals_of(model, np.arange(len(model.faces))).astype(np.float32)
    return Surfaces(
        normal,
        np.where(pane[model.face_material], 0, sense).astype(np.int8),
        model.face_objects().astype(np.int64),
        shown[model.face_material].astype(np.float32),
        frosted[model.face_material],
        gloss_of(model, ~pane & ~frosted, normal),
    )
