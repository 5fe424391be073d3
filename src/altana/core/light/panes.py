"""Clear panes: how much of the light that goes through them is left, and in which colour."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints32
from altana.core.distinct import in_use
from altana.core.geometry.rays import RayScene
from altana.core.light.tone import decoded
from altana.core.model import Model

#: Panes whose channels differ by less pass for colourless, and what is less than this, linear, has no colour.
COLOURED, LEAST_COLOUR = 0.05, 0.002
#: What of a clear pane is mirror; the rest lets light through unbent.
PANE_MIRROR = 0.1
#: What of light is mirrored that falls square on glass, and how much of that one face of a pane takes.
SQUARE, A_FACE = 0.04, 0.54
#: A ray is followed through so many faces of panes, each time from a little beyond the last; faces this near
#: to each other are of one window.
MOST_FACES, BEYOND_M, ONE_PANE_M = 8, 0.0005, 0.3


@dataclass(frozen=True, slots=True)
class PaneCrossing:
    """What panes do to rays (k,): what is left of their light, ``passed`` (k, 3 or 1); the first pane's
    triangle, ``face`` (k,), -1 where there is none, and how far away it is, ``run`` (k,) metres; and the
    share of light that its faces mirror, ``mirrored`` (k,)."""

    passed: Floats32
    face: Ints32
    run: Floats32
    mirrored: Floats32


@dataclass(frozen=True, slots=True)
class Panes:
    """Clear panes apart from everything else.  Per triangle: its ``normal`` (m, 3), and what one face leaves
    of light but for its mirror, ``passes`` (m, 3), or (m, 1) where no pane has a colour to speak of."""

    rays: RayScene
    normal: Floats32
    passes: Floats32

    def through(self, origin: Floats32, out: Floats32, run: Floats32) -> Floats32:
        """(k, 3 or 1) what is left of the light that comes to places (k, 3) from directions (k, 3) out of
        distances (k,)."""
        return self.crossed(origin, out, run).passed

    def crossed(self, origin: Floats32, out: Floats32, run: Floats32) -> PaneCrossing:
        """What panes do to rays that end at distances ``run`` (k,): a sheet has one face, a body two, and
        windows may stand behind each other."""
        count = len(origin)
        crossing = PaneCrossing(
            np.ones((count, self.passes.shape[1]), np.float32),
            np.full(count, -1, np.int32),
            np.full(count, np.inf, np.float32),
            np.zeros(count, np.float32),
        )
        going, gone = np.arange(count), np.zeros(count, np.float32)
        for number in range(MOST_FACES):
            hits = self.rays.meet(origin[going] + out[going] * gone[going, None], out[going], alone=True)
            at = gone[going] + hits.distance_m.astype(np.float32)
            met = (hits.face >= 0) & (at < run[going])
            going, face, at = going[met], hits.face[met], at[met]
            if not len(going):
                break
            if number == 0:
                crossing.face[going], crossing.run[going] = face, at
            share = self._mirror(face, out[going])
            # What a face mirrors comes back through those before it; one far behind mirrors another place.
            near = at - crossing.run[going] < ONE_PANE_M
            crossing.mirrored[going] += near * share * crossing.passed[going].mean(axis=1) ** 2
            crossing.passed[going] *= (np.float32(1.0) - share)[:, None] * self.passes[face]
            gone[going] = at + np.float32(BEYOND_M)
        return crossing

    def sent_back(self, face: Ints32, out: Floats32) -> Floats32:
        """(k, 3) from where panes ``face`` (k,) have what they mirror to where it is looked from along
        ``out`` (k, 3)."""
        normal = self.normal[face]
        back: Floats32 = out - np.float32(2.0) * np.einsum("ij,ij->i", normal, out)[:, None] * normal
        return back

    def _mirror(self, face: Ints32, out: Floats32) -> Floats32:
        flat = 1.0 - np.minimum(np.abs(np.einsum("ij,ij->i", self.normal[face], out)), 1.0)
        mirror: Floats32 = pane_mirror(flat).astype(np.float32)
        return mirror


def panes_of(model: Model, clear: Bools, normal: Floats32) -> Panes | None:
    """The ``clear`` (m,) triangles, or None where there are none.  normal : (m, 3)."""
    which = clear[model.face_material]
    if not which.any():
        return None
    tints = np.array(
        [pane_tint(decoded(np.asarray(item.colour[:3])), item.colour[3]) for item in model.materials]
    )
    used = in_use(model.face_material[which], len(model.materials))
    if np.ptp(tints[used], axis=1).max() < COLOURED:
        tints = tints.mean(axis=1, keepdims=True)
    dense = np.array([pane_density(item.colour[3]) for item in model.materials])
    passes = (tints * (1.0 - dense)[:, None])[model.face_material].astype(np.float32)
    return Panes(RayScene.of(model, chosen=which), normal, passes)


def pane_tint(colour: Floats32, alpha: float) -> Floats:
    """(3,) the colour that light takes on through one face of a clear pane, its brightest part kept.
    colour : (3,) linear."""
    # Of nearly black glass the colour is that of what little it shows; it is its opacity that says how dark
    # it is.
    shade = np.asarray(colour, float) / max(float(np.max(colour)), LEAST_COLOUR)
    tint: Floats = np.sqrt(1.0 + (shade - 1.0) * np.sqrt(np.clip(alpha, 0.0, 1.0)))
    return tint


def pane_density(alpha: float) -> float:
    """How much of the light that goes into one face of a clear pane its body takes."""
    return float(np.clip(alpha, 0.0, 0.97)) ** 2


def pane_mirror(flat: Floats) -> Floats:
    """What one face of a pane mirrors.  flat : 1 less the cosine between light and pane.  By C. Schlick ("An
    inexpensive BRDF model for physically-based rendering", 1994); each of two faces takes half, and never
    less than PANE_MIRROR."""
    share: Floats = np.clip((SQUARE + (1.0 - SQUARE) * flat**5) * A_FACE, PANE_MIRROR, 1.0)
    return share
