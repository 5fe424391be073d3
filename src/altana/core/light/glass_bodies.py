"""Bodies of solid glass: what bends the light that goes through it, as a ball, a block or a vase does, and a
pane does not."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Ints
from altana.core.geometry.cross import crossed
from altana.core.geometry.shells import shells_of
from altana.core.light.frosted import FROSTED
from altana.core.model import GLASS, Model

#: A shell of whose surface so much lies in planes of one direction is a pane: what is seen through it is
#: hardly moved.
FLAT_SHARE = 0.8


def glass_bodies(model: Model) -> npt.NDArray[np.int8]:
    """(m,) for each triangle of a body that bends light +1 where its winding faces outward, -1 where it faces
    inward; 0 for all others.

    A body is a closed shell of a material that the file means for solid glass; one that is flat is a pane.
    """
    solid = np.array(
        [item.kind == GLASS and item.solid_glass and item.roughness <= FROSTED for item in model.materials],
        bool,
    )
    chosen = solid[model.face_material] if len(model.face_material) else np.zeros(0, bool)
    if not chosen.any():
        return np.zeros(len(model.faces), np.int8)
    sense, shell = shells_of(model)
    bends = chosen & (sense != 0) & ~_flat(model, shell)[shell]
    result: npt.NDArray[np.int8] = np.where(bends, sense, 0).astype(np.int8)
    return result


def _flat(model: Model, shell: Ints) -> Bools:
    """(shells,) whether nearly all of a shell's surface lies in planes of one direction."""
    a, b, c = (model.vertices[model.faces[:, k]].astype(float) for k in range(3))
    across = crossed(b - a, c - a)
    area = np.linalg.norm(across, axis=1)
    along = across / np.maximum(area, 1e-30)[:, None]
    spread = np.zeros((int(shell.max()) + 1, 3, 3))
    np.add.at(spread, shell, area[:, None, None] * along[:, :, None] * along[:, None, :])
    most = np.linalg.eigvalsh(spread)[:, -1]
    flat: Bools = most >= FLAT_SHARE * np.trace(spread, axis1=1, axis2=2)
    return flat
