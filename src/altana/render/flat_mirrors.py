"""What panes, looking-glasses and lacquered fronts mirror: the picture from behind their plane, turned round.

A flat surface shows what an eye as far behind it as the real one is before it would see, with left and right
exchanged; so the mirrored picture is an ordinary one, with everything behind the plane left away.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import moderngl
import numpy as np

from altana.core.camera.bounds import unbounded
from altana.core.camera.pose import pose_of
from altana.core.camera.view import View
from altana.core.conventions import Floats, Ints
from altana.core.model import GLASS, WATER, Material
from altana.render.outputs import Facts

#: So many planes of one picture are mirrored, those that throw back most: at least this share of what comes
#: from the whole picture.
MOST_PLANES, LEAST_SHARE = 6, 2e-4
#: Places within this belong to one plane, and so do directions whose cosine is more than this.
SAME_M, STRAIGHT = 0.03, 0.9995
#: Surfaces rougher than this show no sharp picture; panes rougher than the second begin to be frosted
#: (light.frag, glass.glsl).
ROUGHEST, ROUGHEST_PANE = 0.12, 0.25
#: What throws back more than this is a looking-glass, as fine as the picture; of the others' pixels each
#: stands for so many, across and up. So many times it is drawn over itself, for smooth edges, and so many
#: times they are.
LOOKING_GLASS, SMALLER, DRAWN, DRAWN_FAINT = 0.4, 2, 4, 2
#: A mirror's part of the picture is taken so much wider, pixels of the small picture.
WIDER_PX = 2
UNIT = 10


@dataclass(frozen=True, slots=True)
class FlatMirror:
    """A plane that mirrors: its ``normal`` towards the eye, and how far it lies along it, metres; the
    ``part`` of the picture that shows it (left, top, right, bottom in shares); how much of a mirror it is
    taken for, less where others are nearly worth as much; and whether it is a looking-glass, which shows
    little but what it mirrors."""

    normal: tuple[float, float, float]
    at_m: float
    part: tuple[float, float, float, float]
    share: float = 1.0
    looking_glass: bool = False

    @property
    def drawn(self) -> int:
        """How often its picture is drawn over itself."""
        return DRAWN if self.looking_glass else DRAWN_FAINT

    def behind(self, view: View) -> View:
        """The view from behind the plane whose picture, turned round, is what the plane shows; nothing bounds
        it."""
        normal, eye = np.array(self.normal), np.asarray(view.pose.eye, float)
        right, up, forward = view.pose.axes() @ (np.eye(3) - 2.0 * np.outer(normal, normal))
        world = np.eye(4)
        world[:3, 0], world[:3, 1], world[:3, 2] = -right, up, -forward
        world[:3, 3] = eye - 2.0 * (normal @ eye - self.at_m) * normal
        lens = replace(view.lens, cross_mm=-view.lens.cross_mm)
        return replace(unbounded(view), pose=pose_of(world), lens=lens)

    def pixels(self, view: View, tile: tuple[int, int, int, int]) -> tuple[int, int, int, int] | None:
        """Left, top, width and height of its part within a tile, pixels from the tile's corner; None where
        none of it lies there."""
        left, top, right, bottom = self.part
        x0 = max(int(np.floor(left * view.width_px)) - tile[0], 0)
        y0 = max(int(np.floor(top * view.height_px)) - tile[1], 0)
        x1 = min(int(np.ceil(right * view.width_px)) - tile[0], tile[2])
        y1 = min(int(np.ceil(bottom * view.height_px)) - tile[1], tile[3])
        return (x0, y0, x1 - x0, y1 - y0) if x1 > x0 and y1 > y0 else None


def mirrors_sharply(materials: tuple[Material, ...]) -> bool:
    """Whether any of them does, so that planes are worth looking for."""
    return any(max(_mirroring(item)) > 0.0 for item in materials)


def thrown_back(materials: tuple[Material, ...], which: Ints, along: Floats) -> Floats:
    """(n,) the share of light that surfaces mirror sharply.  which : (n,) numbers of materials, along : (n,)
    cosines between sight and surface."""
    kinds = [_mirroring(item) for item in materials] or [(0.0, 0.0)]
    straight, most = np.array(kinds)[which].T
    share: Floats = straight + (most - straight) * (1.0 - np.clip(along, 0.0, 1.0)) ** 5
    return share


def _mirroring(item: Material) -> tuple[float, float]:
    """What a material mirrors sharply where it is looked at straight, and along it."""
    if item.kind == GLASS:
        return (0.2, 1.0) if item.roughness < ROUGHEST_PANE else (0.0, 0.0)
    if item.kind == WATER or item.roughness > ROUGHEST or any(item.emission):
        return 0.0, 0.0
    return (0.8, 1.0) if item.metal > 0.5 else (0.04, (1.0 - item.roughness) ** 2)


def seen_planes(view: View, facts: Facts, materials: tuple[Material, ...]) -> tuple[FlatMirror, ...]:
    """The planes that mirror most of a picture, the most first.

    facts : of the small view, panes among them.
    """
    rows, columns = np.nonzero(np.isfinite(facts.depth_m) & (facts.material_index >= 0))
    along = view.rays(np.column_stack([columns + 0.5, rows + 0.5]))
    normal = facts.normal[rows, columns].astype(float)
    cosine = -np.einsum("ij,ij->i", normal, along)
    normal[cosine < 0.0] *= -1.0
    weight = thrown_back(materials, facts.material_index[rows, columns].astype(np.int64), np.abs(cosine))
    # Polished floors and tables are mirrored by themselves, with their ripples and their roughness
    # (mirrors.py).
    glass = np.array([item.kind == GLASS or item.metal > 0.5 for item in materials] or [False])
    weight[(normal[:, 2] > 0.99) & ~glass[facts.material_index[rows, columns]]] = 0.0
    some = np.flatnonzero(weight > 0.0)
    rows, columns, along, normal = rows[some], columns[some], along[some], normal[some]
    weight = weight[some] / facts.depth_m.size
    deep = facts.depth_m[rows, columns] / np.maximum(along @ view.pose.forward, 1e-9)
    place = np.asarray(view.pose.eye) + along * deep[:, None]
    planes: list[tuple[FlatMirror, float]] = []
    rest = np.arange(len(rows))
    # One more than is mirrored, by which the last of them fade.
    while len(rest) and len(planes) <= MOST_PLANES:
        facing, at = _largest(normal[rest], place[rest], weight[rest])
        mine = (normal[rest] @ facing > STRAIGHT) & (np.abs(place[rest] @ facing - at) < SAME_M)
        chosen, rest = rest[mine], rest[~mine]
        total = float(weight[chosen].sum())
        if not len(chosen) or total < LEAST_SHARE:
            break
        clear = total * facts.depth_m.size > LOOKING_GLASS * len(chosen)
        part = _part(view, rows[chosen], columns[chosen])
        x, y, z = facing.tolist()
        planes.append((FlatMirror((x, y, z), at, part, 1.0, clear), total))
    return _fading(planes)


def _largest(normal: Floats, place: Floats, weight: Floats) -> tuple[Floats, float]:
    """Normal (3,) and place along it of the plane that most of some places (n, 3) lie in."""
    at = np.einsum("ij,ij->i", normal, place)
    cells = np.round(np.column_stack([normal * 50.0, at / SAME_M])).astype(np.int64)
    _, where = np.unique(cells, axis=0, return_inverse=True)
    where = where.reshape(-1)
    best = where == np.argmax(np.bincount(where, weights=weight))
    facing = normal[best].mean(axis=0)
    facing /= np.linalg.norm(facing)
    return facing, float(np.median(place[best] @ facing))


def _part(view: View, rows: Ints, columns: Ints) -> tuple[float, float, float, float]:
    """What of a picture some pixels of the small view take, as shares."""
    wide, high = view.width_px, view.height_px
    return (
        max(float(columns.min() - WIDER_PX) / wide, 0.0),
        max(float(rows.min() - WIDER_PX) / high, 0.0),
        min(float(columns.max() + 1 + WIDER_PX) / wide, 1.0),
        min(float(rows.max() + 1 + WIDER_PX) / high, 1.0),
    )


def _fading(planes: list[tuple[FlatMirror, float]]) -> tuple[FlatMirror, ...]:
    """Those that are mirrored; the least of them fade, so that none comes or goes at once while a camera
    moves."""
    least = max(LEAST_SHARE, planes[MOST_PLANES][1] if len(planes) > MOST_PLANES else 0.0)
    shares = [min(max(total / least - 1.0, 0.0), 1.0) for _, total in planes]
    return tuple(
        replace(plane, share=share)
        for (plane, _), share in zip(planes[:MOST_PLANES], shares, strict=False)
        if share > 0.0
    )


@dataclass(frozen=True, slots=True)
class FlatMirrors:
    """Pictures of flat mirrors for one tile, one above the other in ``texture``: from where each is taken,
    and its texels a pixel, (k, 4); and what it fills (k, 4), texels."""

    texture: moderngl.Texture
    planes: tuple[FlatMirror, ...]
    shift: Floats
    box: Floats

    def uniforms(self) -> dict[str, object]:
        """What a program is told of them."""
        self.texture.use(UNIT)
        wide, high = self.texture.size
        plane = np.array([(*item.normal, item.at_m) for item in self.planes])
        share = np.array([item.share for item in self.planes])
        return {
            "u_flat": UNIT,
            "u_flats": len(self.planes),
            "u_flat_step": (1.0 / wide, 1.0 / high),
            "u_flat_plane": _all(plane),
            "u_flat_shift": _all(self.shift),
            "u_flat_box": _all(self.box),
            "u_flat_share": _all(share),
        }


def _all(values: Floats) -> bytes:
    """As many rows as the shader has."""
    rows = np.zeros((MOST_PLANES, *values.shape[1:]), np.float32)
    rows[: len(values)] = values
    return rows.tobytes()
