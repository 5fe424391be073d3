"""The light that a light map has at places on triangles."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Bools, Floats32, Ints32
from altana.core.light.transport import LightMap
from altana.core.model import Model


@dataclass(frozen=True, slots=True)
class MapTexels:
    """A light map, asked at millions of places: its texels in one row, ``lux`` (2 h w, 3), ``size`` (h, w) of
    one side; and per triangle, ``laid`` (m, 15), a corner, its texel, how texels change from there in space
    (2, 3), and the lowest and highest of them."""

    lux: Floats32
    size: tuple[int, int]
    laid: Floats32

    @classmethod
    def of(cls, light_map: LightMap, model: Model) -> MapTexels:
        """Triangles lie in the map as it is drawn."""
        corner, uv = model.vertices[model.faces].astype(float), light_map.uv.astype(float)
        one, two = corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]
        # What share of the way to its second and third corner a place lies (barycentric coordinates).
        aa, ab, bb = (np.einsum("ij,ij->i", x, y) for x, y in ((one, one), (one, two), (two, two)))
        whole = np.maximum(aa * bb - ab * ab, 1e-20)[:, None]
        second, third = (
            (bb[:, None] * one - ab[:, None] * two) / whole,
            (aa[:, None] * two - ab[:, None] * one) / whole,
        )
        slope = (uv[:, 1] - uv[:, 0])[:, :, None] * second[:, None] + (uv[:, 2] - uv[:, 0])[
            :, :, None
        ] * third[:, None]
        laid = np.concatenate(
            [corner[:, 0], uv[:, 0], slope.reshape(-1, 6), uv.min(axis=1), uv.max(axis=1)], axis=1
        )
        high, wide, _ = light_map.pixels.shape
        lux = np.ascontiguousarray(light_map.pixels.reshape(-1, 3), np.float32)
        return cls(lux, (high // 2, wide), laid.astype(np.float32))

    def at(self, place: Floats32, face: Ints32, back: Bools, dice: Floats32) -> Floats32:
        """(k, 3) lux at places (k, 3) on triangles (k,), on their front or their ``back`` (k,).

        Of the four texels about each place one is taken, as often as it counts between them: over many places
        that is the light as it is drawn.  dice : (2, k) 0 to 1.
        """
        laid = self.laid[face]
        at = place - laid[:, :3]
        high, wide = self.size
        index = []
        for axis, most in ((0, wide), (1, high)):
            slope = laid[:, 5 + 3 * axis : 8 + 3 * axis]
            texel = laid[:, 3 + axis] + np.einsum("ij,ij->i", slope, at)
            texel = np.minimum(np.maximum(texel, laid[:, 11 + axis]), laid[:, 13 + axis])
            near = np.floor(texel + (dice[axis] - np.float32(0.5))).astype(np.int64)
            index.append(np.minimum(np.maximum(near, 0), most - 1))
        column, row = index
        lux: Floats32 = self.lux[(row + np.where(back, high, 0)) * wide + column]
        return lux
