"""The light of the places all round a panorama's eye: one picture of places for each face, and none of their
borders seen.

What cleans a face of grain knows nothing of the next one, so that both may be a little off at the border they
share.  The pictures of places reach beyond their faces, therefore, and where two or three overlap each has
the same mean of them, with weights that go to nothing towards its own edge.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Floats, Floats32
from altana.core.light.pixel_light import LitPixels
from altana.render.pixel_light import ALIKE, off_plane_m


def evened(faces: list[LitPixels]) -> list[LitPixels]:
    """The light of all faces, as they agree on it where they overlap.  All are seen from one eye."""
    return [_agreed(face, [other for other in faces if other is not face]) for face in faces]


def _agreed(face: LitPixels, others: list[LitPixels]) -> LitPixels:
    shape, both = face.known.shape, _both(face)
    rows, columns = np.mgrid[: shape[0], : shape[1]]
    pixels = np.column_stack([columns.ravel() + 0.5, rows.ravel() + 0.5])
    own = _weight(face.view, pixels)
    shared = np.flatnonzero(own < 1.0)
    ahead = face.view.rays(pixels[shared]) + np.asarray(face.view.pose.eye)
    offset, normal = (values.reshape(-1, 3)[shared] for values in (face.offset, face.normal))
    weight = own[shared] * face.known.ravel()[shared]
    light = both[shared] * weight[:, None]
    for other in others:
        at = other.view.project(ahead)[:, :2]
        # Behind the eye's plane they are no numbers.
        which = np.flatnonzero((at >= 0.0).all(axis=1) & (at <= shape[::-1]).all(axis=1))
        share, theirs = _between(other, at[which], offset[which], normal[which])
        share *= _weight(other.view, at[which])
        light[which] += theirs * share[:, None]
        weight[which] += share
    known = face.known.ravel().copy()
    known[shared] = weight > 0.0
    both[shared] = light / np.maximum(weight, 1e-9)[:, None]
    return replace(
        face,
        lux=both[:, :3].reshape(*shape, 3),
        sheen=both[:, 3:].reshape(*shape, 3),
        known=known.reshape(shape),
    )


def _both(face: LitPixels) -> Floats32:
    """(h w, 6) lux and sheen."""
    return np.concatenate([face.lux, face.sheen], axis=2).reshape(-1, 6)


def _weight(view: View, pixels: Floats) -> Floats:
    """(n,) how much a face says of places at pixels (n, 2) of its picture: 1 where no other one reaches, 0 at
    its edge."""
    # Tangents: the face itself ends at 1, and others reach to the inverse of where this one does.
    reach = view.edges()[1]
    across = reach * np.abs(2.0 * pixels / (view.width_px, view.height_px) - 1.0).max(axis=1)
    share: Floats = np.clip((reach - across) / (reach - 1.0 / reach), 0.0, 1.0)
    return share


def _between(face: LitPixels, pixels: Floats, offset: Floats32, normal: Floats32) -> tuple[Floats, Floats]:
    """What a face has at pixels (n, 2) of places (n, 3): whether it knows any of their plane (n,), and their
    lux and sheen (n, 6), between those."""
    high, wide = face.known.shape
    both = _both(face)
    first = np.floor(pixels - 0.5).astype(int)
    part = pixels - 0.5 - first
    near = off_plane_m(offset)
    total, light = np.zeros(len(pixels)), np.zeros((len(pixels), 6))
    for j in (0, 1):
        for i in (0, 1):
            row, column = np.clip(first[:, 1] + j, 0, high - 1), np.clip(first[:, 0] + i, 0, wide - 1)
            off = np.abs(np.einsum("ik,ik->i", offset - face.offset[row, column], normal))
            alike = np.einsum("ik,ik->i", face.normal[row, column], normal) >= ALIKE
            weight = np.abs(1 - i - part[:, 0]) * np.abs(1 - j - part[:, 1])
            weight = weight * (face.known[row, column] & alike & (off <= near))
            total += weight
            light += weight[:, None] * both[row * wide + column]
    return (total > 0.0).astype(float), light / np.maximum(total, 1e-9)[:, None]
