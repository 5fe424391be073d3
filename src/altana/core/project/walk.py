"""Walkthroughs and turntables."""

from __future__ import annotations

from dataclasses import dataclass

from altana.core.conventions import EV_OUTSIDE, STANDING_M, Vec2, Vec3
from altana.core.project.staged import NOTHING_LEFT_OUT, LeftOut
from altana.core.ranges import Focal, Side, Tilt, WalkSeconds

SMOOTH, CORNER, EVEN = "smooth", "corner", "even"


@dataclass(frozen=True, slots=True)
class WalkKey:
    """A place the route passes: eye point in metres, heading and tilt where the walk looks as keyed.

    ``bend`` is how the route passes: smooth, with an even curvature (the circle through the places beside
    it), or as a corner.  ``dwell_s`` is a pause here; ``at_s`` the second at which the walk comes here, None
    where the pace decides. ``handle`` (metres east and north) sets which way the route leaves a smooth place
    and how far it carries on that way; it arrives from the opposite side.  ``hour`` is the local time of day
    here, None where the project's holds; ``lamps`` how brightly lamps burn here, 0 to 1, None where the
    project says.  ``long_way``: where the walk looks as keyed it turns to this heading the long way round,
    not the short one.
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
    lamps: float | None = None
    long_way: bool = False


AHEAD, KEYED, POINT = "ahead", "keyed", "point"


@dataclass(frozen=True, slots=True)
class Look:
    """What is looked at over a span of the route, from one share of its length (0 to 1) to another: ahead
    along it, as keyed, or at a point (metres), which moves evenly to ``to`` over the span where that is
    given.  ``name`` says what stands there."""

    start: float
    end: float
    kind: str = POINT
    point: Vec3 = (0.0, 0.0, 0.0)
    to: Vec3 | None = None
    name: str = ""


@dataclass(frozen=True, slots=True)
class Turntable:
    """A way round a centre: radius in metres, the eye at ``eye_m`` above zero, looking at the centre.

    The eye begins at ``start_deg`` (a heading seen from the centre) and goes on by ``sweep_deg``, clockwise
    where it is positive.  Level, or tilted so that the centre lies in the middle of the frame.
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
    """A walkthrough or a turntable, ``seconds`` long at ``rate`` frames a second (text: ``25``,
    ``24000/1001``).

    A walkthrough is a route through its keys, walked at an even pace but for eases at its ends and pauses at
    keys. ``looking`` is "ahead" (along the route) or "keyed" (headings of the keys); ``looks`` are spans that
    look otherwise. ``follow_floor`` keeps the eye ``eye_height_m`` above the floor under the route.
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
    left_out: LeftOut = NOTHING_LEFT_OUT
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
