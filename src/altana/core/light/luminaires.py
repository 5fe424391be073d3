"""Light straight from what glows: lamps, signs, and the light sources of a file.

A glowing surface, in pieces of about PIECE_M, is a luminaire as lighting engineers measure them: how many
candelas it throws each way, its own shade taken into account.  Whoever stands farther away than its body sees
that much of it, or nothing where something stands between; whoever stands nearer sees the single small
surfaces.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.geometry.cross import crossed
from altana.core.geometry.rays import RayScene
from altana.core.geometry.runs import object_boxes
from altana.core.light.lamps import SHINE, warm_white
from altana.core.light.panes import Panes
from altana.core.light.seen import START_M
from altana.core.model import Model
from altana.core.progress import Progress

#: Larger surfaces are several luminaires of this size; more than so many there are not, then they are larger.
#: A body is no more than so many times as large as what glows in it, and so much more.
PIECE_M, MOST_LUMINAIRES, BODY_SIZE, BODY_M = 0.6, 400, 4.0, 0.1
#: What glows and reaches no farther from its middle is a lamp in whose light shadows have edges; what is
#: larger throws soft ones.
SMALL_M = 0.25
#: Directions that a luminaire is looked at from, round and from straight up to straight down.
ROUND, DOWN = 48, 25
#: Most and fewest places of its surface that are looked at, and about how many there are of all luminaires.
MOST_PLACES, FEWEST_PLACES, ALL_PLACES = 96, 16, 4000
#: Small surfaces of a luminaire for those who stand near it, and how far before its surface light begins.
NEAR_PLACES, BEFORE_M = 12, 0.01
#: A lamp is taken for no nearer than this; the last bit before a source without a surface is the lamp it
#: hangs in; less light than this is not reckoned.
NEAREST_M, SOURCE_BODY_M, LEAST_LUX, LEAST_RUN_M = 0.15, 0.25, 0.02, 1e-3


@dataclass(frozen=True, slots=True)
class Sources:
    """Points that throw light: places and directions (n, 3), candelas by colour straight ahead (n, 3).  A
    direction of nought throws evenly all round; ``cosine`` (n,) of a cone's half-angle, -2 for a surface that
    throws by the cosine (Lambert).  ``body`` (n,) is how much of the way to each is its own thing, metres."""

    place: Floats
    normal: Floats
    candela: Floats
    cosine: Floats
    body: Floats


@dataclass(frozen=True, slots=True)
class Luminaire:
    """``place`` (3,) and radius of a body that glows; ``candela`` (DOWN, ROUND) it throws each way, and of
    each ``colour`` (3,); the small surfaces it is made of; and whether it is ``small``, so that shadows in
    its light have edges."""

    place: Floats
    radius_m: float
    candela: Floats
    colour: Floats
    surfaces: Sources
    small: bool = False

    @property
    def reach_m(self) -> float:
        """How far what glows reaches from its middle."""
        return float(np.linalg.norm(self.surfaces.place - self.place, axis=1).max())

    def towards(self, out: Floats) -> Floats:
        """(n,) candelas towards unit directions (n, 3)."""
        polar = np.arccos(np.clip(out[:, 2], -1.0, 1.0)) / np.pi * (DOWN - 1)
        heading = np.mod(np.arctan2(out[:, 1], out[:, 0]) / (2.0 * np.pi) * ROUND, ROUND)
        row, column = np.minimum(polar.astype(int), DOWN - 2), heading.astype(int)
        down, along = polar - row, heading - column
        column, beside = column % ROUND, (column + 1) % ROUND
        above = self.candela[row, column] * (1.0 - along) + self.candela[row, beside] * along
        below = self.candela[row + 1, column] * (1.0 - along) + self.candela[row + 1, beside] * along
        candela: Floats = above * (1.0 - down) + below * down
        return candela


def glowing_faces(model: Model, share: float) -> Bools:
    """(m,) the triangles that glow: signs always, lamps while any of their light, a ``share`` of it, is
    on."""
    glowing = np.array(
        [any(item.emission) and (not item.lamp or share > 0.0) for item in model.materials], bool
    )
    return glowing[model.face_material] if len(glowing) else np.zeros(len(model.faces), bool)


def sources_of(model: Model, share: float) -> Sources:
    """The light sources of the file that are no things, with the share of their light that is on."""
    lamps = [lamp for lamp in model.lamps if share > 0.0]
    return Sources(
        np.array([lamp.place for lamp in lamps]).reshape(-1, 3),
        np.array([lamp.direction or (0.0, 0.0, 0.0) for lamp in lamps]).reshape(-1, 3),
        np.array([warm_white(lamp.kelvin) * lamp.candela * share for lamp in lamps]).reshape(-1, 3),
        np.array([np.cos(np.radians(lamp.cone_deg / 2.0)) if lamp.direction else -2.0 for lamp in lamps]),
        np.full(len(lamps), SOURCE_BODY_M),
    )


def luminaires_of(model: Model, share: float, rays: RayScene) -> list[Luminaire]:
    """The bodies that glow.  share : of the light of lamps that is on.  rays : what keeps light off, their
    own bodies too."""
    faces = np.flatnonzero(glowing_faces(model, share))
    if not len(faces):
        return []
    patches = _Patches.of(model, faces, share)
    piece = patches.pieces()
    count = int(np.clip(ALL_PLACES // (int(piece.max()) + 1), FEWEST_PLACES, MOST_PLACES))
    low, high = object_boxes(model)
    luminaires = []
    for number in range(int(piece.max()) + 1):
        chosen = np.flatnonzero(piece == number)
        owner = patches.owner[chosen[0]]
        luminaire = patches.luminaire(chosen, np.stack([low[owner], high[owner]]), rays, count)
        # A piece of something large throws no shadow of its own that anybody sees.
        if luminaire is not None:
            whole = len(chosen) == np.count_nonzero(patches.owner == owner)
            luminaires.append(replace(luminaire, small=whole and luminaire.reach_m <= SMALL_M))
    return luminaires


@dataclass(frozen=True, slots=True)
class _Patches:
    """Small glowing triangles: ``corners`` (n, 3, 3), ``normal`` (n, 3), ``area`` (n,), candelas by colour
    straight ahead (n, 3), and whose they are (n,)."""

    corners: Floats
    normal: Floats
    area: Floats
    candela: Floats
    owner: Ints

    @classmethod
    def of(cls, model: Model, faces: Ints, share: float) -> _Patches:
        """Of triangles (k,) that glow, the large ones cut."""
        corners, face = _in_small(model, faces)
        a, b, c = (corners[:, k] for k in range(3))
        across = crossed(b - a, c - a)
        length = np.linalg.norm(across, axis=1)
        shine = np.array(
            [np.array(item.emission) * (share if item.lamp else 1.0) for item in model.materials]
        )
        return cls(
            corners,
            across / np.maximum(length, 1e-20)[:, None],
            length / 2.0,
            shine[model.face_material[face]] * SHINE * (length / 2.0)[:, None],
            model.face_objects()[face].astype(np.int64),
        )

    @property
    def middle(self) -> Floats:
        """(n, 3) their middles."""
        middle: Floats = self.corners.mean(axis=1)
        return middle

    def pieces(self) -> Ints:
        """(n,) the luminaire that each belongs to: those of one thing in one cell."""
        size, middle = PIECE_M, self.middle
        starts = np.full((int(self.owner.max()) + 1, 3), np.inf)
        np.minimum.at(starts, self.owner, middle)
        while True:
            cell = np.floor((middle - starts[self.owner]) / size).astype(np.int64)
            things, piece = np.unique(np.column_stack([self.owner, cell]), axis=0, return_inverse=True)
            single = len(np.unique(self.owner))
            if len(things) <= max(MOST_LUMINAIRES, single):
                return piece.reshape(-1)
            size *= 2.0

    def luminaire(self, chosen: Ints, box: Floats, rays: RayScene, count: int) -> Luminaire | None:
        """Those chosen (k,) as one, looked at from afar by so many places.  box : (2, 3) of their whole
        thing."""
        candela, corners = self.candela[chosen], self.corners[chosen]
        total = candela.sum(axis=0)
        if total.max() <= 0.0:
            return None
        place = np.average(corners.mean(axis=1), axis=0, weights=self.area[chosen])
        reach = float(np.linalg.norm(corners - place, axis=2).max())
        # Its body is all of its thing, but for the rod that it hangs on.
        corner = float(np.linalg.norm(np.maximum(np.abs(box[0] - place), np.abs(box[1] - place))))
        radius = max(reach, min(corner, BODY_SIZE * reach + BODY_M))
        parts = self._surfaces(chosen, count)
        luminance = float(candela.sum() / 3.0)
        shape = _seen_from_afar(parts, place, radius, rays)
        near = self._surfaces(chosen, NEAR_PLACES)
        return Luminaire(place, radius, shape * luminance, total / max(luminance, 1e-12), near)

    def _surfaces(self, chosen: Ints, count: int) -> Sources:
        """So many places spread evenly over the surfaces chosen (k,), each with its share of their light."""
        strength = self.candela[chosen].sum(axis=1)
        # Two numbers that fill a square evenly (the plastic number's sequence), and a third in between for
        # the triangle.
        number = np.arange(count)
        u, v = np.modf(0.5 + number * 0.7548776662466927)[0], np.modf(0.5 + number * 0.5698402909980532)[0]
        drawn = np.searchsorted(np.cumsum(strength) / strength.sum(), (number + 0.5) / count)
        which = chosen[np.minimum(drawn, len(chosen) - 1)]
        over = u + v > 1.0
        u, v = np.where(over, 1.0 - u, u)[:, None], np.where(over, 1.0 - v, v)[:, None]
        a, b, c = (self.corners[which, k] for k in range(3))
        place = a + u * (b - a) + v * (c - a) + self.normal[which] * BEFORE_M
        candela = np.tile(self.candela[chosen].sum(axis=0) / count, (count, 1))
        return Sources(place, self.normal[which], candela, np.full(count, -2.0), np.full(count, BEFORE_M))


def _seen_from_afar(parts: Sources, place: Floats, radius_m: float, rays: RayScene) -> Floats:
    """(DOWN, ROUND) what of all the light of some places comes out each way, past what stands within the
    radius of ``place``."""
    polar, heading = np.meshgrid(
        np.linspace(0.0, np.pi, DOWN), np.arange(ROUND) / ROUND * 2.0 * np.pi, indexing="ij"
    )
    out = np.stack(
        [np.sin(polar) * np.cos(heading), np.sin(polar) * np.sin(heading), np.cos(polar)], axis=-1
    ).reshape(-1, 3)
    share = parts.candela.sum(axis=1) / max(float(parts.candela.sum()), 1e-12)
    ahead = np.maximum(parts.normal @ out.T, 0.0)
    part, way = np.nonzero(ahead > 0.0)
    start, along = parts.place[part], out[way]
    # As far as the sphere of its body reaches that way.
    aside = start - place
    towards = np.einsum("ij,ij->i", aside, along)
    inner = np.maximum(radius_m**2 - np.einsum("ij,ij->i", aside, aside), 0.0)
    free = ~rays.shaded(start, along, np.sqrt(towards**2 + inner) - towards)
    thrown = (share[:, None] * ahead)[part, way] * free
    shape = np.bincount(way, weights=thrown, minlength=len(out)).astype(float)
    return shape.reshape(DOWN, ROUND)


def _in_small(model: Model, faces: Ints) -> tuple[Floats, Ints]:
    """Corners (n, 3, 3) of triangles cut so small that each lies about within one piece, and which triangle
    each is of (n,)."""
    import trimesh

    corners = model.vertices[model.faces[faces]].astype(float)
    longest = float(np.linalg.norm(corners - np.roll(corners, 1, axis=1), axis=2).max())
    # A sign as large as a house is cut no finer than serves.
    size = max(PIECE_M / 2.0, longest / 32.0)
    if longest <= size:
        return corners, faces
    vertices, cut, index = trimesh.remesh.subdivide_to_size(  # type: ignore[no-untyped-call]
        corners.reshape(-1, 3), np.arange(3 * len(faces)).reshape(-1, 3), size, return_index=True
    )
    return np.asarray(vertices)[cut], faces[index]


@dataclass(frozen=True, slots=True)
class Lamplight:
    """Reckons the light that comes to sides straight from what glows.  position, normal : (n, 3) of the
    sides; begins : (n, k, 3) places all over the cells they speak for.  rays : what keeps it off; panes :
    what takes a part of it."""

    position: Floats
    normal: Floats
    begins: Floats | Floats32
    #: (n,) how near what glows is taken for at the least, metres.
    nearest_m: Floats
    rays: RayScene
    panes: Panes | None

    def light(
        self, luminaires: list[Luminaire], sources: Sources, progress: Progress | None = None
    ) -> Floats | None:
        """(n, 3) lux by luminaires and sources; None where ``progress`` said no."""
        lux = np.zeros((len(self.position), 3))
        everyone = np.arange(len(self.position))
        for luminaire in luminaires:
            if progress is not None and not progress(0.0):
                return None
            near = self._add_from_afar(lux, luminaire)
            for number in range(len(luminaire.surfaces.place) if len(near) else 0):
                self._add_one(lux, luminaire.surfaces, number, near)
        for number in range(len(sources.place)):
            if progress is not None and not progress(0.0):
                return None
            self._add_one(lux, sources, number, everyone)
        return lux

    def _add_from_afar(self, lux: Floats, luminaire: Luminaire) -> Ints:
        """Add what a luminaire throws on all that lie beyond its body; those that lie within."""
        run = luminaire.place - self.position
        away = np.sqrt(np.einsum("ij,ij->i", run, run))
        towards = run / np.maximum(away, 1e-9)[:, None]
        cosine = np.einsum("ij,ij->i", towards, self.normal)
        afar = np.flatnonzero((away > luminaire.radius_m) & (cosine > 0.0))
        strength = cosine[afar] * luminaire.towards(-towards[afar])
        strength /= np.maximum(away[afar], self.nearest_m[afar]) ** 2
        bright = strength * luminaire.colour.max() > LEAST_LUX
        some = afar[bright]
        light = strength[bright][:, None] * luminaire.colour
        self._add_clear(lux, some, towards[some], away[some] - luminaire.radius_m, light)
        return np.flatnonzero(away <= luminaire.radius_m)

    def _add_one(self, lux: Floats, sources: Sources, number: int, some: Ints) -> None:
        """Add what one source throws on some sides (k,)."""
        run = sources.place[number] - self.position[some]
        away = np.sqrt(np.einsum("ij,ij->i", run, run))
        towards = run / np.maximum(away, NEAREST_M)[:, None]
        cosine = np.einsum("ij,ij->i", towards, self.normal[some])
        normal, cone = sources.normal[number], sources.cosine[number]
        throws = np.ones(len(run))
        if normal.any():
            ahead = -(towards @ normal)
            throws = np.where(ahead > cone, 1.0, 0.0) if cone > -1.0 else np.maximum(ahead, 0.0)
        strength = cosine * throws / np.maximum(away, self.nearest_m[some]) ** 2
        # What would not be seen costs no rays.
        bright = np.flatnonzero(strength * sources.candela[number].max() > LEAST_LUX)
        reach = away[bright] - sources.body[number]
        light = strength[bright, None] * sources.candela[number]
        self._add_clear(lux, some[bright], towards[bright], reach, light)

    def _add_clear(self, lux: Floats, some: Ints, towards: Floats, reach: Floats, light: Floats) -> None:
        """Add light (k, 3) to some sides (k,), from directions (k, 3), where nothing stands within ``reach``
        (k,), metres; less what panes keep."""
        if not len(some):
            return
        reach = np.maximum(reach, LEAST_RUN_M)
        share = np.zeros(len(some))
        places = self.begins.shape[1]
        for number in range(places):
            share += ~self.rays.shaded(self.begins[some, number], towards, reach)
        clear = share > 0.0
        some, light = some[clear], light[clear] * (share[clear] / places)[:, None]
        if self.panes is not None:
            start = self.position[some] + self.normal[some] * START_M
            way = (part.astype(np.float32) for part in (start, towards[clear], reach[clear]))
            light = light * self.panes.through(*way)
        lux[some] += light
