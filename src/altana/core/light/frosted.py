"""Which materials sight and light go through."""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Bools
from altana.core.model import GLASS, Model

#: Panes rougher than this are frosted, and let so much of their tint through.
FROSTED, FROSTED_PASSES = 0.3, 0.85


def looked_through(model: Model) -> tuple[Bools, Bools, Bools]:
    """(materials,) which are panes, which of them are frosted, and what lets sight through: clear panes are
    looked through, and foliage and other cut-out pictures let most of the soft light through."""
    pane = np.array([m.kind == GLASS for m in model.materials], bool)
    frosted = pane & np.array([m.roughness > FROSTED for m in model.materials], bool)
    return pane, frosted, (pane & ~frosted) | np.array([m.has_holes for m in model.materials], bool)
