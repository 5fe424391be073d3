"""Maps of the sun's shadow: depths along its rays, round the eye, round the building, and round what a view
shows far from both."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import moderngl
import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Floats, Floats32
from altana.core.geometry.cross import EAST, NORTH, UP, crossed
from altana.core.light.sky import Sky

SUN_DISC_DEG = 0.8
#: The map round the eye reaches so far about its middle, and moves in steps, so that it can be kept while the
#: camera is dragged.
NEAR_M, NEAR_STEP_M = 16.0, 6.0
WIDEST_DEG = 90.0
#: Where nearly all that is seen nearer than that lies within one of these, the smallest is the map round it;
#: it moves in steps of a share of its radius.  Smaller ones would show the few suns of a half-shadow apart.
FITTED_M, FITTED_STEP, NEARLY_ALL = (9.0, 14.0), 0.25, 0.95
#: What a pixel of a map takes, and what the maps of all passes of a picture may take together to be kept for
#: the next, bytes.
PIXEL_BYTES, KEPT_BYTES = 4, 256 << 20
#: What panes let through is never kept finer than this: a pixel of it takes twice what a depth takes.
PANES_PX = 2048
#: How far at most a pass looks beside a place in the map of panes, pixels.
PANES_SHIFT_PX = 1.5
#: Where there is no pane: behind everything, as half floats hold it.
NO_PANE_M = 60_000.0
#: What throws shadows may stand this far from a map's middle along the sun's rays.
SHALLOWEST_M, DEEPEST_M = 120.0, 20_000.0
#: What a view shows is looked for on so many lines of sight each way; its map's middle moves in steps of this
#: share of its radius.
LINES, STEP_SHARE = 5, 0.25


@dataclass(frozen=True, slots=True)
class Region:
    """A part of the world that a shadow map covers: its middle and radius in metres."""

    centre: Floats
    radius_m: float

    def holds(self, other: Region) -> bool:
        """Whether the other lies wholly within this one."""
        return float(np.linalg.norm(self.centre - other.centre)) + other.radius_m <= self.radius_m


@dataclass(frozen=True, slots=True)
class PanesMap:
    """What panes let through of the sun's light, red, green and blue, and how far behind the map's middle the
    first of them lies, metres; the (4, 4) matrix from the world to it, and how deep it reaches, metres."""

    through: moderngl.Texture
    matrix: Floats
    deep_m: float


@dataclass(frozen=True, slots=True)
class ShadowMap:
    """Depths along the sun's rays, the (4, 4) matrix from the world to them, metres to a pixel, and what
    panes do where there are any; ``panes_shift``: how far a pass looks beside a place there, pixels."""

    depths: moderngl.Texture
    matrix: Floats
    texel_m: float
    panes: PanesMap | None
    panes_shift: tuple[float, float] = (0.0, 0.0)


class Casting(Protocol):
    """What stands in the sun's way; the context is the current one."""

    def has_panes(self) -> bool:
        """Whether there are any panes."""
        ...

    def draw_shadow(self, matrix: Floats, side_px: int) -> None:
        """Draw depths along the sun's rays.  matrix : (4, 4), from the world to the map."""
        ...

    def draw_panes(self, matrix: Floats, middle: Floats, forward: Floats) -> None:
        """Draw what panes let through, and where they lie along ``forward`` (3,) from the map's ``middle``
        (3,), metres."""
        ...


class ShadowMaps:
    """Makes the maps of a pass, or finds them again.

    The sun of a pass is the same in every picture of as many passes, so the next tile, face or film frame
    finds the map round the building again, and mostly the one round the eye.
    """

    def __init__(self, context: moderngl.Context) -> None:
        self._context = context
        self._held: dict[tuple[str, int, int], tuple[object, moderngl.Framebuffer]] = {}
        #: One map of panes serves all passes, which look at it a little beside each other: half-shadows
        #: enough for colours.
        self._panes: dict[tuple[str, int], tuple[object, PanesMap]] = {}
        #: Where the sun stood in the last picture.
        self._sun: Floats | None = None

    def of_pass(
        self,
        view: View,
        sky: Sky,
        regions: tuple[Region, Region, Region],
        reach_m: float,
        passes: int,
        number: int,
        side_px: int,
        drawn: object,
        casting: Casting,
        hasty: bool = False,
    ) -> tuple[ShadowMap, ...]:
        """The maps of one pass, finest first: round the eye, round the building, round what is seen.

        regions : what lies round the eye; the building; and what the view shows, or the building again.
        reach_m : how far off what throws shadow may stand.  drawn : says what ``casting`` draws; maps are
        made again when it says something else.  hasty : while the sun moves, the map round the building
        stands for the finer one.
        """
        sun = sun_in_disc(sky, number, passes)
        near, building, seen = regions
        moving = hasty and self._sun is not None and not np.allclose(sun, self._sun, atol=1e-6)
        self._sun = sun
        wanted = [] if moving else [("near", near)]
        wanted.append(("far", building))
        if seen is not building:
            wanted.append(("seen", seen))
        # Where the maps of all passes would take too much, each pass draws its own.
        place = number if len(wanted) * passes * side_px * side_px * PIXEL_BYTES <= KEPT_BYTES else 0
        maps = []
        for name, region in wanted:
            depth = min(max(2.0 * region.radius_m, reach_m, SHALLOWEST_M), DEEPEST_M)
            matrix = sun_matrix(region.centre, region.radius_m, sun, depth)
            frame = self._depths((name, side_px, place), matrix, drawn, casting)
            panes = None
            if casting.has_panes():
                first = sun_matrix(region.centre, region.radius_m, sun_in_disc(sky, 0, passes), depth)
                at = name, min(side_px, PANES_PX), place
                panes = self._panes_of(at, _told(first), matrix, region.centre, sun, drawn, casting)
            depths = frame.depth_attachment
            assert isinstance(depths, moderngl.Texture)
            shift = disc_place(number, passes) * PANES_SHIFT_PX
            maps.append(
                ShadowMap(depths, matrix, 2.0 * region.radius_m / side_px, panes, tuple(shift.tolist()))
            )
        return (maps[0], *maps) if moving else tuple(maps)

    def _depths(
        self, place: tuple[str, int, int], matrix: Floats, drawn: object, casting: Casting
    ) -> moderngl.Framebuffer:
        key = (_told(matrix), drawn)
        kept, side = self._held.get(place), place[1]
        if kept is None or kept[0] != key:
            frame = self._fresh(side) if kept is None else kept[1]
            frame.use()
            frame.clear(depth=1.0)
            casting.draw_shadow(matrix, side)
            kept = self._held[place] = (key, frame)
        return kept[1]

    def _panes_of(
        self,
        at: tuple[str, int, int],
        first: tuple[float, ...],
        matrix: Floats,
        middle: Floats,
        sun: Floats,
        drawn: object,
        casting: Casting,
    ) -> PanesMap:
        """The panes before what casts shadow in this pass; kept as long as the ``first`` pass's sun would see
        the same."""
        place, key = at[:2], (first, drawn)
        kept = self._panes.get(place)
        if kept is not None and kept[0] == key:
            return kept[1]
        # Mostly the depths that are there already.
        depths = self._depths(at, matrix, drawn, casting)
        texture = (
            kept[1].through if kept is not None else self._context.texture((place[1],) * 2, 4, dtype="f2")
        )
        frame = self._context.framebuffer([texture], depths.depth_attachment)
        frame.depth_mask = False
        frame.use()
        frame.clear(1.0, 1.0, 1.0, NO_PANE_M)
        casting.draw_panes(matrix, middle, -sun)
        frame.release()
        panes_map = PanesMap(texture, matrix, 1.0 / float(np.linalg.norm(matrix[2, :3])))
        self._panes[place] = (key, panes_map)
        return panes_map

    def _fresh(self, side: int) -> moderngl.Framebuffer:
        depth = self._context.depth_texture((side, side))
        depth.compare_func = "<="
        depth.filter = (moderngl.LINEAR, moderngl.LINEAR)
        depth.repeat_x = depth.repeat_y = False
        return self._context.framebuffer(depth_attachment=depth)

    def clear(self) -> None:
        """Forget all maps: the model is another."""
        for _, frame in self._held.values():
            frame.depth_attachment.release()
            frame.release()
        self._held.clear()
        for _, panes in self._panes.values():
            panes.through.release()
        self._panes.clear()


def _told(matrix: Floats) -> tuple[float, ...]:
    """A matrix as a key."""
    return tuple(np.round(matrix.ravel(), 9).tolist())


def disc_place(number: int, passes: int) -> Floats:
    """(2,) where a pass stands in a disc of radius 1: spread evenly, as a sunflower's seeds; a single one in
    the middle."""
    if passes == 1:
        return np.zeros(2)
    radius, angle = np.sqrt((number + 0.5) / passes), number * 2.399963
    place: Floats = np.array([np.cos(angle), np.sin(angle)]) * radius
    return place


def sun_in_disc(sky: Sky, number: int, passes: int) -> Floats:
    """The direction of the sun in one pass: passes spread evenly over its disc, one stands in its middle."""
    sun = np.asarray(sky.sun)
    if passes == 1:
        return sun
    side = crossed(sun, UP) if abs(sun[2]) < 0.99 else EAST
    side = side / np.linalg.norm(side)
    across, high = disc_place(number, passes) * np.tan(np.radians(SUN_DISC_DEG / 2))
    moved: Floats = sun + across * side + high * crossed(side, sun)
    moved /= np.linalg.norm(moved)
    return moved


def sun_matrix(centre: Floats, radius: float, sun: Floats, depth: float) -> Floats:
    """World to the shadow map's clip space: an even projection along the sun's rays."""
    forward = -sun
    helper = NORTH if abs(sun[2]) > 0.95 else UP
    side = crossed(forward, helper)
    side /= np.linalg.norm(side)
    up = crossed(side, forward)
    rows = np.stack([side / radius, up / radius, forward / depth])
    matrix = np.eye(4)
    matrix[:3, :3] = rows
    matrix[:3, 3] = -rows @ centre
    # Depths from 0 to 1, as all of clip space here.
    matrix[2] = 0.5 * matrix[2] + (0.0, 0.0, 0.0, 0.5)
    return matrix


def near_region(view: View) -> Region:
    """What lies round the eye of a view, in steps."""
    # As wide as a panorama's face a view sees as far to its sides as ahead: all six faces share a map.
    ahead = 0.0 if min(view.angles_of_view()) >= WIDEST_DEG else NEAR_M * 0.7
    middle = np.asarray(view.pose.eye) + view.pose.forward * ahead
    return Region(np.round(middle / NEAR_STEP_M) * NEAR_STEP_M, NEAR_M + NEAR_STEP_M)


def fitted_region(view: View, depth_m: Floats32) -> Region:
    """What of the surroundings of a view's eye it shows, where that is much smaller: a room.  depth_m :
    (h, w) along the view, of pixels spread over it."""
    usual = near_region(view)
    high, wide = depth_m.shape
    if min(view.angles_of_view()) >= WIDEST_DEG:
        return usual
    x, y = np.meshgrid((np.arange(wide) + 0.5) / wide, (np.arange(high) + 0.5) / high)
    along = view.rays(np.column_stack([x.ravel() * view.width_px, y.ravel() * view.height_px]))
    deep = depth_m.ravel() / np.maximum(along @ view.pose.forward, 1e-9)
    known = np.isfinite(deep)
    points = np.asarray(view.pose.eye, float) + along[known] * deep[known, None]
    points = points[np.linalg.norm(points - usual.centre, axis=1) < usual.radius_m]
    if not len(points):
        return usual
    middle = np.percentile(points, (3.0, 97.0), axis=0).mean(axis=0)
    for radius in FITTED_M:
        step = radius * FITTED_STEP
        region = Region(np.round(middle / step) * step, radius)
        if (np.linalg.norm(points - region.centre, axis=1) < radius).mean() >= NEARLY_ALL:
            return region
    return usual


def seen_region(view: View, low: Floats, high: Floats, building: Region) -> Region:
    """What a view shows, as one region: where its lines of sight first enter boxes, (n, 3) corners, metres.

    The building itself where that holds it all.  Steps of middle and radius keep the map while the camera
    moves a little.
    """
    share = (np.arange(LINES) + 0.5) / LINES
    x, y = np.meshgrid(share * view.width_px, share * view.height_px)
    along = view.rays(np.column_stack([x.ravel(), y.ravel()]))
    eye = np.asarray(view.pose.eye, float)
    from_eye = np.stack([low - eye, high - eye]).astype(np.float32)
    with np.errstate(divide="ignore", invalid="ignore"):
        sides = from_eye[:, None] / along.astype(np.float32)[None, :, None]
        enters, leaves = np.nanmax(sides.min(axis=0), axis=2), np.nanmin(sides.max(axis=0), axis=2)
    # A box round the eye is land or a shell: what stands in it is met on its own.
    distance = np.where((leaves >= enters) & (enters > 0.0), enters, np.inf).min(axis=1, initial=np.inf)
    hit = np.isfinite(distance)
    if not hit.any():
        return building
    points = eye + along[hit] * distance[hit, None]
    centre = np.median(points, axis=0)
    reach = float(np.percentile(np.linalg.norm(points - centre, axis=1), 90.0))
    radius = 16.0 * 1.5 ** np.ceil(np.log(max(reach * 1.3 + 10.0, 16.0) / 16.0) / np.log(1.5))
    region = Region(
        np.round(centre / (radius * STEP_SHARE)) * (radius * STEP_SHARE), float(radius * (1.0 + STEP_SHARE))
    )
    return building if building.holds(Region(centre, reach)) or region.radius_m > DEEPEST_M else region
