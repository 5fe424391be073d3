"""The project as frozen values: what is stored, edited, undone and delivered."""

from __future__ import annotations

from dataclasses import dataclass, replace

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import EV_OUTSIDE, FULL_FRAME_WIDTH_MM, NEAREST_M, STANDING_M, Vec2, Vec3
from altana.core.errors import Refused
from altana.core.ranges import Focal, Sensor, Side, Tilt, WalkSeconds

#: The version of the file that this Altana writes; older ones are read as well.
VERSION = 6

#: Guides that a format may show.
GUIDES = ("thirds", "centre", "diagonals", "golden", "horizon", "title margin")


@dataclass(frozen=True, slots=True)
class ModelRef:
    """A model file of the project; ``path`` is relative to the project file where that is possible."""

    id: str
    path: str
    #: Metres per unit for files that carry no unit; 0 keeps what the file says.
    unit_m: float = 0.0
    #: Which axis of the file points up, "y" or "z"; empty keeps what the file says or what is found.
    up: str = ""
    #: Where it stands: moved so many metres east, north and up, after it was turned clockwise about its own zero.
    move: Vec3 = (0.0, 0.0, 0.0)
    turn_deg: float = 0.0
    #: Whether it is part of the scene at all.
    shown: bool = True


@dataclass(frozen=True, slots=True)
class LeftOut:
    """What pictures do not show: objects by id, whole categories by name, whole storeys by id."""

    objects: tuple[str, ...] = ()
    categories: tuple[str, ...] = ()
    storeys: tuple[str, ...] = ()

    def __bool__(self) -> bool:
        return bool(self.objects or self.categories or self.storeys)


@dataclass(frozen=True, slots=True)
class Nudge:
    """One object moved (metres), turned (degrees clockwise about its middle) or taken out for one camera."""

    object_id: str
    move: Vec3 = (0.0, 0.0, 0.0)
    turn_deg: float = 0.0
    out: bool = False


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
    #: Distances along the line of sight, None while a bound is off; with a place it is fixed in the building, and
    #: ``near`` and ``far`` say where it lies now.
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
    #: Whether ``aim_m`` marks a point that matters (circling, hold subject) or the camera just looks that way.
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
    left_out: LeftOut = LeftOut()
    nudges: tuple[Nudge, ...] = ()
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
    def lens(self) -> Lens:
        """Focal length, sensor and shifts."""
        return Lens(self.focal_mm, self.sensor_width_mm, self.rise_mm, self.cross_mm)

    @property
    def aim(self) -> Vec3:
        """The point looked at."""
        return self.pose.point_ahead(self.aim_m)

    @property
    def near(self) -> float | None:
        """Where the near bound lies now, metres along the line of sight; None when it is off or behind the eye."""
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
        return View(
            self.pose, self.lens, width, height, self.near, self.far, self.keep_sensor_height, self.cuts
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


SMOOTH, CORNER, EVEN = "smooth", "corner", "even"


@dataclass(frozen=True, slots=True)
class WalkKey:
    """A place the route passes: eye point in metres, heading and tilt where the walk looks as keyed.

    ``bend`` is how the route passes: smooth, with an even curvature (the circle through the places beside it), or as a
    corner.  ``dwell_s`` is a pause here; ``at_s`` the second at which the walk comes here, None where the pace decides.
    ``handle`` (metres east and north) sets which way the route leaves a smooth place and how far it carries on that way;
    it arrives from the opposite side.  ``hour`` is the local time of day here, None where the project's holds.
    """

    eye: Vec3
    heading_deg: float = 0.0
    tilt_deg: Tilt = 0.0
    focal_mm: Focal = 24.0
    ev: float = 10.0
    bend: str = SMOOTH
    dwell_s: float = 0.0
    at_s: float | None = None
    rise_mm: float = 0.0
    cross_mm: float = 0.0
    near_m: float | None = None
    far_m: float | None = None
    handle: Vec2 | None = None
    hour: float | None = None


AHEAD, KEYED, POINT = "ahead", "keyed", "point"


@dataclass(frozen=True, slots=True)
class Look:
    """What is looked at over a span of the route, from one share of its length (0 to 1) to another: ahead along it, as
    keyed, or at a point (metres), which moves evenly to ``to`` over the span where that is given.  ``name`` says what
    stands there."""

    start: float
    end: float
    kind: str = POINT
    point: Vec3 = (0.0, 0.0, 0.0)
    to: Vec3 | None = None
    name: str = ""


@dataclass(frozen=True, slots=True)
class Turntable:
    """A way round a centre: radius in metres, the eye at ``eye_m`` above zero, looking at the centre.

    The eye begins at ``start_deg`` (a heading seen from the centre) and goes on by ``sweep_deg``, clockwise where it is
    positive.  Level, or tilted so that the centre lies in the middle of the frame.
    """

    centre: Vec3
    radius_m: float
    eye_m: float
    start_deg: float = 180.0
    sweep_deg: float = 360.0
    level: bool = False
    focal_mm: Focal = 35.0
    ev: float = EV_OUTSIDE


@dataclass(frozen=True, slots=True)
class Walk:
    """A walkthrough or a turntable, ``seconds`` long at ``rate`` frames a second (text: ``25``, ``24000/1001``).

    A walkthrough is a route through its keys, walked at an even pace but for eases at its ends and pauses at keys.
    ``looking`` is "ahead" (along the route) or "keyed" (headings of the keys); ``looks`` are spans that look otherwise.
    ``follow_floor`` keeps the eye ``eye_height_m`` above the floor under the route.
    """

    id: str
    name: str
    keys: tuple[WalkKey, ...]
    seconds: WalkSeconds = 20.0
    rate: str = "25"
    looking: str = AHEAD
    follow_floor: bool = True
    eye_height_m: float = STANDING_M
    width_px: Side = 1280
    height_px: Side = 720
    left_out: LeftOut = LeftOut()
    ease_in_s: float = 0.0
    ease_out_s: float = 0.0
    #: Slowing down before a pause and setting off after it take this long each.
    dwell_ease_s: float = 0.8
    looks: tuple[Look, ...] = ()
    #: Corners are looked round this early, and looks blend into each other over this length.
    anticipation_m: float = 0.9
    #: Verticals stay upright throughout: tilt becomes rise.
    kept_plumb: bool = False
    turntable: Turntable | None = None
    locked: bool = False
    note: str = ""
    hidden: bool = False


@dataclass(frozen=True, slots=True)
class Light:
    """The sun by place and time: degrees north and east, local date and hour, offset from UTC."""

    latitude_deg: float = 47.0
    longitude_deg: float = 9.0
    utc_offset_h: float = 2.0
    date: str = "2026-06-21"
    hour: float = 15.0
    haze: float = 0.2


@dataclass(frozen=True, slots=True)
class PlannedShot:
    """A picture that is wanted and has no camera yet."""

    id: str
    intent: str
    note: str = ""


@dataclass(frozen=True, slots=True)
class Tone:
    """How linear light becomes a picture; all start values leave it as the Frame shows it.

    ``exposure_ev`` : +1 doubles the light.  ``rolloff`` : how early highlights bend, 1 as in the Frame, 0 straight to white.
    ``contrast``, ``saturation``, ``vignette``, ``glow``, ``sharpen`` : shares, 0 for none.  ``white_k`` : the colour
    temperature that comes out white.  ``curve`` : (in, out) of a tone curve on displayed values, 0 to 1.  ``table`` : a
    colour table in the project's folder, put over the rest to a share of ``table_share``.
    """

    exposure_ev: float = 0.0
    rolloff: float = 1.0
    contrast: float = 0.0
    curve: tuple[Vec2, ...] = ()
    white_k: float = 6500.0
    saturation: float = 0.0
    vignette: float = 0.0
    glow: float = 0.0
    sharpen: float = 0.0
    table: str = ""
    table_share: float = 1.0


NO_TONE = Tone()
MATERIALS, WHITE_CARD, LINES, PENCIL = "materials", "white card", "lines", "pencil"
RENDITIONS = (MATERIALS, WHITE_CARD, LINES, PENCIL)
SKY, PLAIN, PICTURE, PAPER, TRANSPARENT = "sky", "plain", "picture", "paper white", "transparent"
BACKGROUNDS = (SKY, PLAIN, PICTURE, PAPER, TRANSPARENT)
#: What lies below the horizon where the model ends: what stands behind goes on, or it is set apart.
AS_BEHIND = "as behind"
GROUNDS = (AS_BEHIND, PLAIN, PAPER)
PAPER_WHITE = "#fbfaf6"
STILL, FILM, PANORAMA = "still", "film", "panorama"


@dataclass(frozen=True, slots=True)
class Style:
    """How lines are drawn: widths in pixels at 1080 px height for outlines and for creases, ink and paper as sRGB text,
    ``hidden`` lines dashed, ``roughness`` of pencil lines (0 to 1) and of hatching by tone, and the seed of the hand."""

    name: str = "Ink"
    outline_px: float = 2.2
    crease_px: float = 1.0
    ink: str = "#24211c"
    paper: str = PAPER_WHITE
    hidden: bool = False
    roughness: float = 0.5
    hatching: float = 0.6
    seed: int = 1


@dataclass(frozen=True, slots=True)
class Shot:
    """One row of the shot list: a camera in one of its formats, a walk or turntable, or a panorama from a camera's place.

    ``subject`` is the id of the camera or the walk; ``region`` (left, top, right, bottom in shares of the frame) makes a
    part of the picture only.  Sizes: the format's own times ``scale`` per cent, or ``width_px`` where it is set (height
    follows).  ``folder`` and ``pattern`` name the file, ``kind`` says what it is.  ``hour`` is the sun's, None the
    project's.  ``tone`` is the row's own, None where the project's holds.
    """

    id: str
    kind: str = STILL
    subject: str = ""
    format_index: int = 0
    on: bool = True
    rendition: str = MATERIALS
    style: Style = Style()
    quality: str = "review"
    background: str = SKY
    background_colour: str = PAPER_WHITE
    background_file: str = ""
    ground: str = AS_BEHIND
    ground_colour: str = "#c9c4b8"
    hour: float | None = None
    folder: str = ""
    pattern: str = "{order}-{camera}-{format}"
    file: str = "png"
    dpi: float = 0.0
    scale: float = 100.0
    width_px: int = 0
    region: tuple[float, float, float, float] | None = None
    left_out: LeftOut = LeftOut()
    tone: Tone | None = None
    keep_master: bool = False
    #: Panoramas: two pictures, one above the other, seen from eyes so far apart (metres); the six faces as files too.
    stereo_m: float = 0.0
    faces: bool = False
    #: Panoramas: the heading of their middle, None where the camera's holds.
    front_deg: float | None = None
    #: Films: every n-th film frame, and a contact strip of every n-th one made.
    step: int = 1
    strip_every: int = 0
    note: str = ""


@dataclass(frozen=True, slots=True)
class Making:
    """The figures behind a word of quality: passes (each a whole drawing with the sun and the pixels a little elsewhere) of a
    picture or panorama of the shot list, passes of a film frame or of a still made straight from its camera, and the side
    of the sun's shadow map, pixels."""

    passes: int
    film_passes: int
    shadow_px: int = 2048


@dataclass(frozen=True, slots=True)
class Qualities:
    """What proof, review and final stand for."""

    proof: Making = Making(3, 1)
    review: Making = Making(8, 8)
    final: Making = Making(32, 32, 4096)

    def of(self, word: str) -> Making:
        """The figures of a word.  Raises AttributeError for another."""
        made: Making = getattr(self, word)
        return made


QUALITY_WORDS = ("proof", "review", "final")
USUAL_QUALITIES = Qualities()


@dataclass(frozen=True, slots=True)
class Patch:
    """A mend of ours on the model: a plain panel, ceiling or ground; never written into a model file.

    ``corners`` run round the flat piece (metres); it is ``thickness_m`` thick, behind the side its corners go
    counter-clockwise on.
    """

    id: str
    name: str
    kind: str
    corners: tuple[Vec3, ...]
    thickness_m: float = 0.02
    on: bool = True


PANEL, CEILING, GROUND = "panel", "ceiling", "ground"


@dataclass(frozen=True, slots=True)
class Limits:
    """When a lens is called wide: the edge stretch of these focal lengths (mm, on 36 mm) in the same proportion."""

    wide_mm: float = 18.0
    very_wide_mm: float = 12.0
    #: The nearest subject appears this many times larger than the farthest of equal size.
    depth_ratio: float = 12.0
    #: A vertical edge may deviate so many pixels of the output, cut faces and gaps may show on so large a share of it.
    vertical_px: float = 1.0
    cut_share: float = 0.0005
    gap_share: float = 0.003
    #: Comfort on a walk: pace (m/s), acceleration (m/s²), turning (°/s), climbing (m/s), free space beside and above (m).
    pace_m_s: float = 1.8
    acceleration_m_s2: float = 1.6
    turn_deg_s: float = 45.0
    climb_m_s: float = 0.8
    #: How fast climbing may begin and end (m/s²): more is felt as a jump of the eye.
    jump_m_s2: float = 2.0
    clearance_m: float = 0.25
    headroom_m: float = 2.0
    #: A camera that is kept plumb shifts its lens at most this far off the axis, degrees.
    steepest_rise_deg: float = 40.0


@dataclass(frozen=True, slots=True)
class Project:
    """Everything a project file holds."""

    name: str = "Untitled"
    version: int = VERSION
    models: tuple[ModelRef, ...] = ()
    cameras: tuple[Camera, ...] = ()
    walks: tuple[Walk, ...] = ()
    light: Light = Light()
    planned: tuple[PlannedShot, ...] = ()
    left_out: LeftOut = LeftOut()
    limits: Limits = Limits()
    #: Mends of ours on the model, each of which can be taken back.
    patches: tuple[Patch, ...] = ()
    shots: tuple[Shot, ...] = ()
    #: The tone of all rows that have none of their own.
    tone: Tone = NO_TONE
    qualities: Qualities = USUAL_QUALITIES
    author: str = ""
    #: Eye heights and focal lengths of one's own, beside the usual ones.
    own_heights_m: tuple[float, ...] = ()
    own_focals_mm: tuple[float, ...] = ()

    def camera(self, camera_id: str) -> Camera | None:
        """The camera with this id, or None."""
        return next((item for item in self.cameras if item.id == camera_id), None)

    def camera_named(self, name: str) -> Camera:
        """The camera with this name or id.  Raises Refused with a sentence that lists what there is."""
        for item in self.cameras:
            if name in (item.name, item.id):
                return item
        known = ", ".join(f"“{item.name}”" for item in self.cameras) or "none yet"
        raise Refused(f"There is no camera “{name}”. Cameras: {known}.")

    def shot(self, shot_id: str) -> Shot | None:
        """The row of the shot list with this id, or None."""
        return next((item for item in self.shots if item.id == shot_id), None)

    def walk(self, walk_id: str) -> Walk | None:
        """The walk with this id, or None."""
        return next((item for item in self.walks if item.id == walk_id), None)

    def walk_named(self, name: str) -> Walk:
        """The walk with this name or id.  Raises Refused with a sentence that lists what there is."""
        for item in self.walks:
            if name in (item.name, item.id):
                return item
        known = ", ".join(f"“{item.name}”" for item in self.walks) or "none yet"
        raise Refused(f"There is no walk “{name}”. Walks: {known}.")


def next_id(prefix: str, taken: tuple[str, ...]) -> str:
    """The lowest free id such as ``cam-07``."""
    number = 1
    while f"{prefix}-{number:02d}" in taken:
        number += 1
    return f"{prefix}-{number:02d}"


def free_name(wanted: str, taken: tuple[str, ...]) -> str:
    """The wanted name, or the same with the lowest free number behind it."""
    if wanted not in taken:
        return wanted
    number = 2
    while f"{wanted} {number}" in taken:
        number += 1
    return f"{wanted} {number}"
