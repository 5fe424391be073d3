"""Clear panes: how much of the light that goes through them is left, and in which colour."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Floats, Floats32, Ints32
from altana.core.geometry.rays import Hits, RayScene
from altana.core.light.tone import decoded
from altana.core.model import Model

#: Panes whose channels differ by less pass for colourless, and what is less than this, linear, has no colour.
COLOURED, LEAST_COLOUR = 0.05, 0.002
#: What of a clear pane is mirror; the rest lets light through unbent.
PANE_MIRROR = 0.1
#: What of light is mirrored that falls square on glass, and how much of that one face of a pane takes.
SQUARE, A_FACE = 0.04, 0.54


@dataclass(frozen=True, slots=True)
class Panes:
    """Clear panes apart from everything else.  Per triangle (m,): its ``normal`` (m, 3); how many ``faces`` light goes through there, two of a
    body; and what is left of light behind them but for their mirrors, ``passes`` (m, 3), or (m, 1) where no pane has a colour to speak of."""

    rays: RayScene
    normal: Floats32
    faces: Floats32
    passes: Floats32

    def through(self, origin: Floats32, out: Floats32, run: Floats32) -> Floats32:
        """(k, 3 or 1) what is left of the light that comes to places (k, 3) from directions (k, 3) out of distances (k,)."""
        return self.passed(self.before(origin, out, run), out)

    def before(self, origin: Floats32, out: Floats32, run: Floats32) -> Hits:
        """The first pane before something at distances ``run`` (k,); -1 where there is none."""
        hits = self.rays.meet(origin, out, alone=True)
        return Hits(np.where(hits.distance_m < run, hits.face, -1), hits.distance_m)

    def passed(self, hits: Hits, out: Floats32) -> Floats32:
        """(k, 3 or 1) what is left of light from directions ``out`` (k, 3) that comes through these."""
        face = np.maximum(hits.face, 0)
        left = (np.float32(1.0) - self._mirror(face, out)) ** self.faces[face]
        return np.where((hits.face >= 0)[:, None], left[:, None] * self.passes[face], np.float32(1.0))

    def mirrored(self, face: Ints32, out: Floats32) -> tuple[Floats32, Floats32]:
        """(k,) the share of light that panes send back to where it is looked from, and (k, 3) from where they have it.  face : (k,)."""
        share = self._mirror(face, out)
        # Behind the first face of a body is the second, whose mirror is seen through the first.
        again = (self.faces[face] > 1.0) * (1.0 - share) ** 2 * self.passes[face].mean(axis=1)
        normal = self.normal[face]
        back = out - np.float32(2.0) * np.einsum("ij,ij->i", normal, out)[:, None] * normal
        return np.asarray(share * (1.0 + again), np.float32), back

    def _mirror(self, face: Ints32, out: Floats32) -> Floats32:
        flat = 1.0 - np.minimum(np.abs(np.einsum("ij,ij->i", self.normal[face], out)), 1.0)
        made: Floats32 = pane_mirror(flat).astype(np.float32)
        return made


def panes_of(model: Model, clear: Bools, sense: npt.NDArray[np.int8], normal: Floats32) -> Panes | None:
    """The ``clear`` (m,) triangles, or None where there are none.  sense : (m,) which side is outside, 0 of sheets.  normal : (m, 3)."""
    which = clear[model.face_material]
    if not which.any():
        return None
    tints = np.array(
        [pane_tint(decoded(np.asarray(item.colour[:3])), item.colour[3]) for item in model.materials]
    )
    used = np.unique(model.face_material[which])
    if np.ptp(tints[used], axis=1).max() < COLOURED:
        tints = tints.mean(axis=1, keepdims=True)
    dense = np.array([pane_density(item.colour[3]) for item in model.materials])
    passes = (tints * (1.0 - dense)[:, None])[model.face_material]
    # Of a body one looks through two faces.
    body = sense != 0
    whole = np.where(body[:, None], passes**2, passes).astype(np.float32)
    return Panes(RayScene.of(model, chosen=which), normal, np.where(body, 2.0, 1.0).astype(np.float32), whole)


def pane_tint(colour: Floats32, alpha: float) -> Floats:
    """(3,) the colour that light takes on through one face of a clear pane, its brightest part kept.  colour : (3,) linear."""
    # Of nearly black glass the colour is that of what little it shows; it is its opacity that says how dark it is.
    shade = np.asarray(colour, float) / max(float(np.max(colour)), LEAST_COLOUR)
    tint: Floats = np.sqrt(1.0 + (shade - 1.0) * np.sqrt(np.clip(alpha, 0.0, 1.0)))
    return tint


def pane_density(alpha: float) -> float:
    """How much of the light that goes into one face of a clear pane its body takes."""
    return float(np.clip(alpha, 0.0, 0.97)) ** 2


def pane_mirror(flat: Floats) -> Floats:
    """What one face of a pane mirrors.  flat : 1 less the cosine between light and pane.  By C. Schlick ("An inexpensive BRDF model for
    physically-based rendering", 1994); each of two faces takes half, and never less than PANE_MIRROR."""
    made: Floats = np.clip((SQUARE + (1.0 - SQUARE) * flat**5) * A_FACE, PANE_MIRROR, 1.0)
    return made
