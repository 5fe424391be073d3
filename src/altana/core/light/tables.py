"""Colour tables: displayed colours looked up in a grid, from ``.cube`` text files
(a size, then rows of red, green, blue, the red going on fastest)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from altana.core.conventions import Floats32, Vec3
from altana.core.errors import Refused

LARGEST_SIDE, LARGEST_ROW = 129, 65_536


@dataclass(frozen=True, slots=True, eq=False)
class ColourTable:
    """``values``: (blue, green, red, 3) displayed colours of a grid over ``low`` to ``high``; with one
    dimension, (n, 3): each channel has a curve of its own."""

    values: Floats32
    low: Vec3 = (0.0, 0.0, 0.0)
    high: Vec3 = (1.0, 1.0, 1.0)

    def applied(self, shown: Floats32, share: float = 1.0) -> Floats32:
        """A picture, displayed values (height, width, 3), put through the table to a share; between the
        points of the grid straight (trilinear), outside it as at its edge."""
        low, high = np.asarray(self.low, np.float32), np.asarray(self.high, np.float32)
        place = np.clip((shown - low) / np.maximum(high - low, np.float32(1e-6)), 0.0, 1.0) * np.float32(
            self.values.shape[0] - 1
        )
        if self.values.ndim == 2:
            points = np.arange(self.values.shape[0])
            curves = np.stack(
                [np.interp(place[..., channel], points, self.values[:, channel]) for channel in range(3)],
                axis=2,
            )
        else:
            at = np.stack([place[..., 2], place[..., 1], place[..., 0]])
            curves = np.stack(
                [
                    scipy.ndimage.map_coordinates(self.values[..., channel], at, order=1, mode="nearest")
                    for channel in range(3)
                ],
                axis=2,
            )
        mixed: Floats32 = np.clip(
            shown + (curves.astype(np.float32) - shown) * np.float32(share), 0.0, 1.0
        ).astype(np.float32)
        return mixed


def table_of(text: str) -> ColourTable:
    """A table from the text of a ``.cube`` file.  Raises Refused saying what is wrong."""
    size, flat, low, high = 0, False, (0.0, 0.0, 0.0), (1.0, 1.0, 1.0)
    rows: list[list[float]] = []
    for number, line in enumerate(text.lstrip("\ufeff").splitlines(), 1):
        words = line.partition("#")[0].split()
        if not words or words[0] == "TITLE":
            continue
        try:
            if words[0] in ("LUT_3D_SIZE", "LUT_1D_SIZE"):
                size, flat = int(words[1]), words[0] == "LUT_1D_SIZE"
                if not 2 <= size <= (LARGEST_ROW if flat else LARGEST_SIDE):
                    raise ValueError
            elif words[0] in ("DOMAIN_MIN", "DOMAIN_MAX"):
                red, green, blue = (float(word) for word in words[1:4])
                low, high = (
                    ((red, green, blue), high) if words[0] == "DOMAIN_MIN" else (low, (red, green, blue))
                )
            elif words[0][0].isalpha():
                continue  # words of other programs change nothing
            else:
                if len(words) != 3 or len(rows) >= LARGEST_SIDE**3:
                    raise ValueError
                rows.append([float(word) for word in words])
        except (ValueError, IndexError) as error:
            raise Refused(f"line {number} is no line of a colour table") from error
    wanted = size if flat else size**3
    if not size or len(rows) != wanted:
        raise Refused(f"it has {len(rows)} colours where {wanted} are announced")
    values = np.array(rows, np.float32)
    if (
        not np.isfinite(values).all()
        or not np.isfinite((low, high)).all()
        or not all(a < b for a, b in zip(low, high, strict=True))
    ):
        raise Refused("not all of its figures are numbers within its domain")
    return ColourTable(values if flat else values.reshape(size, size, size, 3), low, high)
