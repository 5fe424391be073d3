"""A camera and its formats."""

from __future__ import annotations

from dataclasses import dataclass, replace

from altana.core.camera.pose import Pose
from altana.core.camera.view import Blur, Lens, View
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import EV_OUTSIDE, FULL_FRAME_WIDTH_MM, NEAREST_M, STANDING_M, Vec3
from altana.core.project.light import FOLLOWS, OwnLight
from altana.core.project.staged import NOTHING_LEFT_OUT, LeftOut, Nudge
from altana.core.ranges import Focal, Sensor, Side, Tilt

#: Looking down as steeply as this is a plan.
PLAN_TILT_DEG = -89.0
#: Guides that a format may show.
GUIDES = ("thirds", "centre", "diagonals", "golden", "horizon", "title margin")


@dataclass(frozen=True, slots=True)
class Format:
    """One picture taken from a camera's place: its size, sensor fit, own shift and own guides."""

    name: str
    width_px: Side
    height_px: Side
    keep_sensor_height: bool = False
    sensor_width_mm: Sensor = FULL_FRAME_WIDTH_MM
    rise_mm: float = 0.0
    cross_mm: float = 0.0
    guides: tuple[str, ...] = ("thirds",)


@dataclass(frozen=True, slots=True)
class Camera:
    """A camera with everything that decides its picture.  Units stand in the names."""

    id: str
    name: str
    eye: Vec3 = (0.0, 0.0, STANDING_M)
    heading_deg: float = 0.0
    tilt_deg: Tilt = 0.0
    roll_deg: float = 0.0
    #: How far ahead the point lies that the camera looks at; it never changes the picture.
    aim_m: float = 5.0
    focal_mm: Focal = 35.0
    sensor_width_mm: Sensor = FULL_FRAME_WIDTH_MM
    keep_sensor_height: bool = False
    rise_mm: float = 0.0
    cross_mm: float = 0.0
    #: Distances along the line of sight, None while a bound is off; with a place it is fixed in the building,
    #: and ``near`` and ``far`` say where it lies now.
    near_m: float | None = None
    far_m: float | None = None
    near_at: Vec3 | None = None
    far_at: Vec3 | None = None
    wall_cuts: tuple[WallCut, ...] = ()
    #: Cut faces are filled with poché, as in a drawing.
    cap: bool = False
    #: What lies wholly beyond the far bound throws no sun shadow either.
    far_dark: bool = False
    #: Turned up or down, the camera stays true: turning becomes rise.
    kept_plumb: bool = False
    width_px: Side = 1920
    height_px: Side = 1080
    ev: float = EV_OUTSIDE
    intent: str = ""
    note: str = ""
    done: bool = False
    inside: bool = False
    locked: bool = False
    #: Whether ``aim_m`` marks a point that matters (circling, hold subject) or the camera just looks that
    #: way.
    looks_at_point: bool = True
    group: str = ""
    #: Not drawn on plan and section.
    hidden: bool = False
    in_shot_list: bool = False
    guides: tuple[str, ...] = ("thirds",)
    format_name: str = "Screen 16:9"
    #: All formats of the camera; the one at ``format_index`` is in use and stands in the fields above.
    formats: tuple[Format, ...] = ()
    format_index: int = 0
    left_out: LeftOut = NOTHING_LEFT_OUT
    nudges: tuple[Nudge, ...] = ()
    #: Its own date, time and sky, where it does not follow the project's light.
    light: OwnLight = FOLLOWS
    #: Depth of field: the lens's f-number and the distance in focus (None: what it looks at), where blur is
    #: on.
    blur: bool = False
    f_number: float = 8.0
    focus_m: float | None = None
    #: Tries: the same camera otherwise, each under the name of what differs.
    variants: tuple[Camera, ...] = ()

    @property
    def format(self) -> Format:
        """The format in use, from the camera's own fields."""
        return Format(
            self.format_name,
            self.width_px,
            self.height_px,
            self.keep_sensor_height,
            self.sensor_width_mm,
            self.rise_mm,
            self.cross_mm,
            self.guides,
        )

    @property
    def all_formats(self) -> tuple[Format, ...]:
        """Every format with the one in use as it is now; at least one."""
        if not self.formats:
            return (self.format,)
        return tuple(
            self.format if index == self.format_index else item for index, item in enumerate(self.formats)
        )

    @property
    def pose(self) -> Pose:
        """Eye and direction."""
        return Pose(self.eye, self.heading_deg, self.tilt_deg, self.roll_deg)

    @property
    def looks_down(self) -> bool:
        """Whether it sees the building as a plan does: nobody stands there, and there are no verticals to
        keep."""
        return self.tilt_deg <= PLAN_TILT_DEG

    @property
    def lens(self) -> Lens:
        """Focal length, sensor and shifts."""
        return Lens(self.focal_mm, self.sensor_width_mm, self.rise_mm, self.cross_mm)

    @property
    def aim(self) -> Vec3:
        """The point looked at."""
        return self.pose.point_ahead(self.aim_m)

    @property
    def near(self) -> float | None:
        """Where the near bound lies now, metres along the line of sight; None when it is off or behind the
        eye."""
        return self._bound(self.near_m, self.near_at)

    @property
    def far(self) -> float | None:
        """Where the far bound lies now; None when it is off, or no longer beyond the near bound."""
        far = self._bound(self.far_m, self.far_at)
        return far if far is not None and far > (self.near or 0.0) else None

    def _bound(self, distance_m: float | None, place: Vec3 | None) -> float | None:
        if distance_m is None or place is None:
            return distance_m
        away = sum(
            float(f) * (p - e) for f, p, e in zip(self.pose.forward.tolist(), place, self.eye, strict=True)
        )
        return away if away > NEAREST_M else None

    @property
    def cuts(self) -> tuple[WallCut, ...]:
        """The wall cuts that are on."""
        return tuple(item for item in self.wall_cuts if item.on)

    @property
    def bounded(self) -> bool:
        """Whether anything is cut away."""
        return self.near is not None or self.far is not None or bool(self.cuts)

    def view(self, width_px: int = 0, height_px: int = 0) -> View:
        """The exact picture at its own size, or at another size of the same proportion."""
        width, height = width_px or self.width_px, height_px or self.height_px
        blur = Blur(self.focal_mm / self.f_number / 2000.0, self.focus_m or self.aim_m) if self.blur else None
        return View(
            self.pose, self.lens, width, height, self.near, self.far, self.keep_sensor_height, self.cuts, blur
        )

    def with_view(self, pose: Pose, lens: Lens) -> Camera:
        """The same camera with another pose and lens."""
        return replace(
            self,
            eye=pose.eye,
            heading_deg=pose.heading_deg,
            tilt_deg=pose.tilt_deg,
            roll_deg=pose.roll_deg,
            focal_mm=lens.focal_mm,
            sensor_width_mm=lens.sensor_width_mm,
            rise_mm=lens.rise_mm,
            cross_mm=lens.cross_mm,
        )
