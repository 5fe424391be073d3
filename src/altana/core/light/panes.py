"""Clear panes: how much of the light that goes through them is left, and in which colour."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Floats, Floats32
from altana.core.geometry.rays import RayScene
from altana.core.light.tone import decoded
from altana.core.model import Model

#: Panes whose channels differ by less pass for colourless, and what is less than this, linear, has no colour.
COLOURED, LEAST_COLOUR = 0.05, 0.002
#: What of a clear pane is mirror; the rest lets light through unbent.
PANE_MIRROR = 0.1


@dataclass(frozen=True, slots=True)
class Panes:
    """Clear panes apart from everything else, and how much light each of their triangles lets through with the one behind it, (m, 3), or
    (m, 1) where no pane has a colour to speak of."""

    rays: RayScene
    passes: Floats32

    def through(self, origin: Floats32, out: Floats32, run: Floats32) -> Floats32:
        """(k, 3 or 1) what is left of the light that comes to places (k, 3) from directions (k, 3) out of distances (k,)."""
        hits = self.rays.meet(origin, out, alone=True)
        before = (hits.face >= 0) & (hits.distance_m < run)
        return np.where(before[:, None], self.passes[np.maximum(hits.face, 0)], np.float32(1.0))


def panes_of(model: Model, clear: Bools, sense: npt.NDArray[np.int8]) -> Panes | None:
    which = clear[model.face_material]
    if not which.any():
        return None
    tints = np.array(
        [pane_tint(decoded(np.asarray(item.colour[:3])), item.colour[3]) for item in model.materials]
    )
    used = np.unique(model.face_material[which])
    if np.ptp(tints[used], axis=1).max() < COLOURED:
        tints = tints.mean(axis=1, keepdims=True)
    opacity = np.array([pane_opacity(item.colour[3]) for item in model.materials])
    passes = (tints * (1.0 - opacity)[:, None])[model.face_material]
    # Of a body one looks through two faces.
    whole = np.where((sense != 0)[:, None], passes**2, passes).astype(np.float32)
    return Panes(RayScene.of(model, chosen=which), whole)


def pane_tint(colour: Floats32, alpha: float) -> Floats:
    """(3,) the colour that light takes on through one face of a clear pane, its brightest part kept.  colour : (3,) linear."""
    # Of nearly black glass the colour is that of what little it shows; it is its opacity that says how dark it is.
    shade = np.asarray(colour, float) / max(float(np.max(colour)), LEAST_COLOUR)
    tint: Floats = np.sqrt(1.0 + (shade - 1.0) * np.sqrt(np.clip(alpha, 0.0, 1.0)))
    return tint


def pane_opacity(alpha: float) -> float:
    """How much of what lies behind one face of a clear pane is not seen: its mirror, and the more of its body the denser it is."""
    dense = float(np.clip(alpha, 0.0, 0.97)) ** 2
    return PANE_MIRROR + (1.0 - PANE_MIRROR) * dense
