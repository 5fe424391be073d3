"""What the renderer gives: pictures, light before exposure, and facts about what each pixel shows."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats32

Pixels = npt.NDArray[np.uint8]


@dataclass(frozen=True, slots=True)
class Facts:
    """Extra outputs, each (height, width): object number or -1, depth in metres along the view (infinite for
    sky), (height, width, 3) surface directions, whether a pane lies before what is seen, and material number
    or -1."""

    object_index: npt.NDArray[np.int32]
    depth_m: Floats32
    normal: Floats32
    pane: npt.NDArray[np.bool_]
    material_index: npt.NDArray[np.int32]

    @classmethod
    def empty(cls, width: int, height: int) -> Facts:
        """Of a picture that shows nothing."""
        return cls(
            np.full((height, width), -1, np.int32),
            np.full((height, width), np.inf, np.float32),
            np.zeros((height, width, 3), np.float32),
            np.zeros((height, width), bool),
            np.full((height, width), -1, np.int32),
        )


@dataclass(frozen=True, slots=True)
class DrawnAs:
    """How a picture is drawn: everything as white card, and whether there is a sky."""

    white: bool = False
    sky: bool = True


AS_IT_IS = DrawnAs()


@dataclass(frozen=True, slots=True)
class Master:
    """A picture before exposure and tone: ``light`` (height, width, 3) float32 in cd/m2, of what covers each
    pixel, and ``alpha`` (height, width) float32, how much of it is covered; None where there is a sky all
    over."""

    light: Floats32
    alpha: Floats32 | None = None
