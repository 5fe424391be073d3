"""What smooth surfaces mirror on to others: a polished floor throws on the ceiling what comes flat through a
window, and a counter what it sees of the room beyond it.

Mean reflectances do not know from where light comes.  So some of the rays that meet something smooth go on
from there, as its finish would mirror them: directions after E. Heitz ("Sampling the GGX distribution of
visible normals", JCGT 7(4), 2018), shares after C. Schlick and B. Smith.  What rough things mirror goes
nearly everywhere and stays part of what they throw.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.geometry.cross import crossed
from altana.core.light.shape import frames
from altana.core.model import GLASS, WATER, Model

#: What a surface throws back of even light by its roughness (measured of those that final pictures have, a
#: million directions each): so much of its colour, and so much of all light whatever its colour.
ROUGHNESS = (0.04, 0.1, 0.2, 0.3, 0.5, 0.7, 0.9, 1.0)
OF_COLOUR = (0.958, 0.965, 0.975, 0.986, 1.008, 1.031, 1.053, 1.066)
SHEEN = (0.092, 0.091, 0.088, 0.079, 0.059, 0.039, 0.024, 0.019)
#: Rougher than this nothing is followed.
SMOOTH = 0.6
#: What is mirrored of light that comes straight; water's roughness in pictures.
STRAIGHT, WATER_ROUGHNESS = 0.04, 0.06
#: Smooth planes that mirror the sun together: so many ways they may lie, told apart by the ALIKE-th part of a
#: unit, with so many square metres each at least.
MOST_PLANES, ALIKE, WIDE_M2 = 8, 25.0, 1.0
#: A ray that meets something smooth goes on so many times as often as its share is large, and counts less for
#: it.
OFTEN = 2.0


@dataclass(frozen=True, slots=True)
class Gloss:
    """Per triangle: how wide it mirrors, the square of its roughness, ``wide`` (m,), 0 where it is not
    followed; the share of even light, ``sheen`` (m,), that it has in its reflectance for it; and the wide
    ``plane`` (m,) it belongs to, -1 for none.

    Of planes their ``normals`` (p, 3), of either sign, and ``widths`` (p,).
    """

    wide: Floats32
    sheen: Floats32
    plane: Ints
    normals: Floats32
    widths: Floats32

    def mirrored(
        self, face: Ints32, normal: Floats32, origin: Floats32, out: Floats32
    ) -> tuple[Ints, Floats32, Floats32]:
        """Of rays from (k, 3) along (k, 3) that meet triangles (k,), -1 for none, with normals (k, 3): the
        numbers (g,) of those that go on, and (g, 3) where to and (g,) what they count.

        The same rays go on every time.
        """
        smooth = np.flatnonzero((face >= 0) & (self.wide[face] > 0.0))
        towards = -np.einsum("ij,ij->i", normal[smooth], out[smooth])
        chance = np.minimum(OFTEN * mirrored_share(np.abs(towards)), 1.0)
        some = np.flatnonzero(_scattered(origin[smooth], out[smooth], 12.9898) < chance)
        at, chance, towards = smooth[some], chance[some], towards[some]
        wide, facing = self.wide[face[at]].astype(float), normal[at] * np.sign(towards)[:, None]
        one, two = (_scattered(origin[at], out[at], seed) for seed in (39.3467, 73.1561))
        onward, share = drawn_way(-out[at].astype(float), facing.astype(float), wide, one, two)
        counts, goes = share / chance, share > 0.0
        return at[goes], onward[goes].astype(np.float32), counts[goes].astype(np.float32)


def gloss_of(model: Model, followed: Bools, normal: Floats32) -> Gloss | None:
    """What of a model is smooth; None where nothing is.  followed : (materials,) those that may be: no
    panes.  normal : (m, 3) of the triangles."""
    rough = np.array(
        [WATER_ROUGHNESS if item.kind == WATER else item.roughness for item in model.materials], float
    )
    plain = np.array([item.metal < 0.5 and item.kind != GLASS for item in model.materials], bool)
    smooth = followed & plain & (rough <= SMOOTH)
    if not smooth[model.face_material].any():
        return None
    wide = np.where(smooth, np.maximum(rough, ROUGHNESS[0]) ** 2, 0.0)
    sheen = np.where(smooth, np.interp(rough, ROUGHNESS, SHEEN), 0.0)
    of_face = wide[model.face_material].astype(np.float32)
    planes = _planes(model, of_face, normal)
    return Gloss(of_face, sheen[model.face_material].astype(np.float32), *planes)


def _planes(model: Model, wide: Floats32, normal: Floats32) -> tuple[Ints, Floats32, Floats32]:
    """Which way smooth triangles lie and how wide they mirror: of those ways that most of them lie the
    number, the normal and the width."""
    some = np.flatnonzero(wide > 0.0)
    # Of a sheet either side may be the front.
    sign = np.where(normal[some] @ np.array([0.01, 0.1, 1.0], np.float32) < 0.0, -1, 1)
    up = normal[some] * sign[:, None].astype(np.float32)
    key = np.column_stack([np.round(up * ALIKE), np.round(np.log2(wide[some]))]).astype(np.int64)
    _, first, group = np.unique(key, axis=0, return_index=True, return_inverse=True)
    corner = model.vertices[model.faces[some]].astype(float)
    area = 0.5 * np.linalg.norm(crossed(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]), axis=1)
    total = np.bincount(group, weights=area)
    most = np.argsort(-total, kind="stable")[:MOST_PLANES]
    most = most[total[most] >= WIDE_M2]
    number = np.full(len(total), -1, np.int64)
    number[most] = np.arange(len(most))
    plane = np.full(len(wide), -1, np.int64)
    plane[some] = number[group]
    # Of finishes that are taken together the mean by their area.
    mean = np.bincount(group, weights=area * wide[some])[most] / total[most]
    return plane, up[first[most]], mean.astype(np.float32)


def mirrored_share(cosine: Floats) -> Floats:
    """What a smooth body mirrors of light that comes with this cosine to its normal."""
    share: Floats = STRAIGHT + (1.0 - STRAIGHT) * (1.0 - np.minimum(cosine, 1.0)) ** 5
    return share


def _scattered(origin: Floats32, out: Floats32, seed: float) -> Floats:
    """(k,) numbers from 0 to 1 that look random and are the same for the same ray."""
    mixed = np.round(origin, 3).astype(float) @ np.array([seed, 78.233, 37.719]) + out @ np.array(
        [57.3, 91.7, 23.1]
    )
    share: Floats = np.modf(np.abs(np.sin(mixed)) * 43_758.5453)[0]
    return share


def drawn_way(eye: Floats, normal: Floats, wide: Floats, one: Floats, two: Floats) -> tuple[Floats, Floats]:
    """(k, 3) ways that light goes from surfaces which face (k, 3) and come in sight along ``eye`` (k, 3),
    towards it, drawn as often as their finish, ``wide`` (k,), mirrors them, and the share (k,) that does, 0
    where it would go into the surface.  one, two : (k,) 0 to 1; the others may be one for all."""
    half = _visible_half(eye, normal, wide, one, two)
    along = np.einsum("ij,ij->i", half, eye)
    away = 2.0 * along[:, None] * half - eye
    up = np.einsum("ij,ij->i", away, normal)
    unhidden = 2.0 * up / np.maximum(up + np.sqrt(wide**2 + (1.0 - wide**2) * up**2), 1e-12)
    return away, np.where(up > 0.0, mirrored_share(np.clip(along, 0.0, 1.0)) * unhidden, 0.0)


def _visible_half(eye: Floats, normal: Floats, wide: Floats, one: Floats, two: Floats) -> Floats:
    """(k, 3) directions half way between where light comes from and an eye towards (k, 3), drawn as often as
    they are seen.  one, two : (k,) 0 to 1."""
    frame = frames(normal)
    local = np.einsum("ikj,ij->ik", frame, eye)
    bent = local * np.column_stack([wide, wide, np.ones(len(wide))])
    bent /= np.maximum(np.linalg.norm(bent, axis=1, keepdims=True), 1e-12)
    level = np.hypot(bent[:, 0], bent[:, 1])
    flat = level > 1e-9
    across = np.where(
        flat[:, None],
        np.column_stack([-bent[:, 1], bent[:, 0], np.zeros(len(bent))]) / np.maximum(level, 1e-12)[:, None],
        (1.0, 0.0, 0.0),
    )
    over = crossed(bent, across)
    radius, turn = np.sqrt(one), 2.0 * np.pi * two
    first = radius * np.cos(turn)
    share = 0.5 * (1.0 + bent[:, 2])
    second = (1.0 - share) * np.sqrt(np.maximum(1.0 - first**2, 0.0)) + share * radius * np.sin(turn)
    left = np.sqrt(np.maximum(1.0 - first**2 - second**2, 0.0))
    drawn = first[:, None] * across + second[:, None] * over + left[:, None] * bent
    drawn *= np.column_stack([wide, wide, np.ones(len(wide))])
    drawn[:, 2] = np.maximum(drawn[:, 2], 1e-6)
    drawn /= np.linalg.norm(drawn, axis=1, keepdims=True)
    half: Floats = drawn @ frame[0] if len(frame) == 1 else np.einsum("ik,ikj->ij", drawn, frame)
    return half
