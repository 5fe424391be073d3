"""The whole project."""

from __future__ import annotations

from dataclasses import dataclass

from altana.core.errors import Refused
from altana.core.project.camera import Camera
from altana.core.project.light import USUAL_LIGHT, Light
from altana.core.project.remark import Remark
from altana.core.project.shots import NO_TONE, USUAL_QUALITIES, Qualities, Shot, Tone
from altana.core.project.staged import NOTHING_LEFT_OUT, LeftOut, ModelRef, Patch
from altana.core.project.walk import Walk

#: The version of the file that this Altana writes; older ones are read as well.
VERSION = 7


@dataclass(frozen=True, slots=True)
class PlannedShot:
    """A picture that is wanted and has no camera yet."""

    id: str
    intent: str
    note: str = ""


@dataclass(frozen=True, slots=True)
class Limits:
    """When a lens is called wide: the edge stretch of these focal lengths (mm, on 36 mm) in the same
    proportion."""

    wide_mm: float = 18.0
    very_wide_mm: float = 12.0
    #: The nearest subject appears this many times larger than the farthest of equal size.
    depth_ratio: float = 12.0
    #: A vertical edge may deviate so many pixels of the output, cut faces and gaps may show on so large a
    #: share of it.
    vertical_px: float = 1.0
    cut_share: float = 0.0005
    gap_share: float = 0.003
    #: Comfort on a walk: pace (m/s), acceleration (m/s²), turning (°/s), climbing (m/s), free space beside
    #: and above (m).
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
    light: Light = USUAL_LIGHT
    planned: tuple[PlannedShot, ...] = ()
    left_out: LeftOut = NOTHING_LEFT_OUT
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
    #: What others said, with the viewpoints it was said about.
    remarks: tuple[Remark, ...] = ()

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
    """The wanted name, or the same with the lowest free number behind it, in the place of one that was put
    there so before."""
    if wanted not in taken:
        return wanted
    stem, _, last = wanted.rpartition(" ")
    if last.isdigit() and stem in taken:
        wanted = stem
    number = 2
    while f"{wanted} {number}" in taken:
        number += 1
    return f"{wanted} {number}"
