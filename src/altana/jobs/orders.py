"""What the window asks its children: one class an order, and beside it what the order is answered with.

Orders and answers are values; they cross the pipe as they stand here.  A child that fails answers with a
Failure, which names the order it belongs to.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import ClassVar

from altana.core.camera.view import View
from altana.core.checks.camera_check import CameraCheck
from altana.core.checks.coverage import ObjectCoverage
from altana.core.geometry.drawing import PlanDrawing, SectionDrawing
from altana.core.geometry.snapping import SnapGrid
from altana.core.model import Problem
from altana.core.picture_key import KNOWN, ROUGH
from altana.core.project import Camera, Light, Limits, Project, Walk
from altana.core.staging import WHOLE, Staging
from altana.core.walk.checks import Flag
from altana.core.walk.unrolled import Unrolled
from altana.jobs.requests import Picture


@dataclass(frozen=True, slots=True)
class Order:
    """Something asked of a child."""

    #: Whether it is asked again for whoever asked when the child dies; what is shown is asked again by who
    #: shows it.
    lasting: ClassVar[bool] = False


@dataclass(frozen=True, slots=True)
class Reply:
    """Something a child answers with."""

    @property
    def final(self) -> bool:
        """Whether it ends its order."""
        return True


@dataclass(frozen=True, slots=True)
class Failure(Reply):
    """An order that came to nothing.  ``order`` is the name of its class; ``trace`` is empty where a person
    was at fault, not Altana."""

    order: str
    sentence: str
    trace: str = ""


# ---------------------------------------------------------------------- all children that know the model


@dataclass(frozen=True, slots=True)
class OpenModels(Order):
    """Open the models of a project that lies at a path.  Answered with ModelsOpened."""

    project: Project
    path: str


@dataclass(frozen=True, slots=True)
class OpenAhead(Order):
    """A project file is about to be opened: have its models ready if they were read before.  Not answered."""

    path: str


@dataclass(frozen=True, slots=True)
class ModelsOpened(Reply):
    """The models are open; how well their soft light is known (ESTIMATED, ROUGH or KNOWN)."""

    lit: int


# ---------------------------------------------------------------------- pictures


@dataclass(frozen=True, slots=True)
class ShowLight(Order):
    """Show the models in this light from now on.  Answered with ModelsOpened where that changes anything."""

    light: Light
    lit: int = KNOWN
    #: Other lights that are known, which pictures may be drawn in.
    others: tuple[Light, ...] = ()


@dataclass(frozen=True, slots=True)
class DrawPicture(Order):
    """A picture of a view.  ``look`` is a key of children.looks.LOOKS.  Answered with PictureDrawn."""

    look: str
    view: View
    light: Light
    ev: float
    inside: bool
    staging: Staging = WHOLE


@dataclass(frozen=True, slots=True)
class DrawRound(Order):
    """A panorama of a camera's place, so wide.  Answered with PictureDrawn."""

    look: str
    camera: Camera
    light: Light
    staging: Staging
    width_px: int


@dataclass(frozen=True, slots=True)
class DrawFinished(Order):
    """A still as its file will show it, in a project without its cameras that lies in the folder ``base``.
    Answered with PictureDrawn."""

    item: Picture
    project: Project
    base: str


@dataclass(frozen=True, slots=True)
class PictureDrawn(Reply):
    """A picture in shared memory: its slot and size there.  ``note`` is the look it was drawn in, or what is
    to be said of it."""

    slot: int
    height: int
    width: int
    note: str


@dataclass(frozen=True, slots=True)
class ProposeExposure(Order):
    """The exposure that brings the middle of each camera's picture to middle grey.  Answered with
    ExposureProposed."""

    lasting: ClassVar[bool] = True

    wanted: tuple[tuple[Camera, Staging], ...]
    light: Light


@dataclass(frozen=True, slots=True)
class ExposureProposed(Reply):
    """EV by the camera's id."""

    ev: Mapping[str, float]


@dataclass(frozen=True, slots=True)
class CheckPicture(Order):
    """What one camera's picture consists of, looked at so wide.  Answered with PictureChecked."""

    camera_id: str
    view: View
    width_px: int
    staging: Staging


@dataclass(frozen=True, slots=True)
class PictureChecked(Reply):
    """One camera's check; ``share`` is how far an order of many has come, 1 for an order of one."""

    camera_id: str
    check: CameraCheck
    share: float = 1.0

    @property
    def final(self) -> bool:
        return self.share >= 1.0


@dataclass(frozen=True, slots=True)
class CheckPictures(Order):
    """The checks of many cameras (id, view, staging), one at a time.  None: leave off.  Each is answered with
    PictureChecked."""

    lasting: ClassVar[bool] = True

    wanted: tuple[tuple[str, View, Staging], ...]
    width_px: int
    #: How many have been looked at.
    begun: int = 0


@dataclass(frozen=True, slots=True)
class CheckFilm(Order):
    """What the film frames of a walk show of cut faces and gaps.  Answered with FilmChecked."""

    lasting: ClassVar[bool] = True

    walk: Walk
    project: Project
    #: How many film frames have been looked at.
    begun: int = 0


@dataclass(frozen=True, slots=True)
class FilmChecked(Reply):
    """The flags of a walk's film."""

    walk: Walk
    flags: tuple[Flag, ...]


@dataclass(frozen=True, slots=True)
class See(Order):
    """What each camera sees, looked at in these views.  Answered with Seeing and in the end SharesSeen."""

    lasting: ClassVar[bool] = True

    views: Mapping[str, View]


@dataclass(frozen=True, slots=True)
class Seeing(Reply):
    """How far seeing has come."""

    share: float

    @property
    def final(self) -> bool:
        return False


@dataclass(frozen=True, slots=True)
class SharesSeen(Reply):
    """By camera: the share of its picture that each object takes."""

    shares: Mapping[str, Mapping[str, float]]


@dataclass(frozen=True, slots=True)
class Cover(Order):
    """What these cameras and walks see of the model.  Answered with Covering and in the end
    ObjectsCovered."""

    lasting: ClassVar[bool] = True

    project: Project
    cameras: tuple[str, ...]
    walks: tuple[str, ...]
    #: How many pictures have been looked at.
    begun: int = 0


@dataclass(frozen=True, slots=True)
class StopCovering(Order):
    """Leave off looking at coverage.  Not answered."""


@dataclass(frozen=True, slots=True)
class Covering(Reply):
    """How far coverage has come."""

    share: float

    @property
    def final(self) -> bool:
        return False


@dataclass(frozen=True, slots=True)
class ObjectsCovered(Reply):
    """Coverage by object, in the model's order."""

    objects: tuple[ObjectCoverage, ...]


# ---------------------------------------------------------------------- plans and sections


@dataclass(frozen=True, slots=True)
class Survey(Order):
    """The problems of the model beyond what the importer said.  Answered with Surveyed."""

    lasting: ClassVar[bool] = True


@dataclass(frozen=True, slots=True)
class Surveyed(Reply):
    """The problems found."""

    problems: tuple[Problem, ...]


@dataclass(frozen=True, slots=True)
class DrawPlan(Order):
    """The plan of one storey, heights in metres, without the hidden objects.  Answered with PlanDrawn."""

    lasting: ClassVar[bool] = True

    floor_m: float
    cut_m: float
    hidden: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class PlanDrawn(Reply):
    """A plan and what a pointer on it holds on to."""

    drawing: PlanDrawing
    grid: SnapGrid


@dataclass(frozen=True, slots=True)
class DrawSection(Order):
    """The section along a line of sight; a quick one shows the cut only.  Answered with SectionDrawn."""

    lasting: ClassVar[bool] = True

    origin: tuple[float, float]
    heading_deg: float
    quick: bool
    hidden: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class SectionDrawn(Reply):
    """A section."""

    drawing: SectionDrawing


@dataclass(frozen=True, slots=True)
class CheckWalk(Order):
    """What is wrong with a walk.  Answered with WalkChecked."""

    lasting: ClassVar[bool] = True

    walk: Walk
    limits: Limits


@dataclass(frozen=True, slots=True)
class WalkChecked(Reply):
    """A walk in its building, and its flags in the order of time."""

    walk: Walk
    flags: tuple[Flag, ...]


@dataclass(frozen=True, slots=True)
class Unroll(Order):
    """The long section of a walk's route.  Answered with RouteUnrolled."""

    lasting: ClassVar[bool] = True

    walk: Walk


@dataclass(frozen=True, slots=True)
class RouteUnrolled(Reply):
    """A walk in its building, and the section along its whole route."""

    walk: Walk
    sheet: Unrolled


# ---------------------------------------------------------------------- light


@dataclass(frozen=True, slots=True)
class ComputeLight(Order):
    """The soft light of a project's models, kept in the cache.  Answered with LightProgress, LightKnown as
    soon as it is known roughly, and in the end LightKnown."""

    project: Project
    path: str
    #: Lights of cameras and walks that have their own; each is answered with MoreLightKnown.
    also: tuple[Light, ...] = ()


@dataclass(frozen=True, slots=True)
class LightProgress(Reply):
    """How far the light has come."""

    share: float

    @property
    def final(self) -> bool:
        return False


@dataclass(frozen=True, slots=True)
class LightKnown(Reply):
    """The light of a project is in the cache (``lit``: ROUGH or KNOWN), or the model is so large that it
    stays ESTIMATED."""

    light: Light
    lit: int = KNOWN

    @property
    def final(self) -> bool:
        return self.lit != ROUGH


@dataclass(frozen=True, slots=True)
class FindPlaces(Order):
    """Keep the places that a view shows, for their light to be reckoned.  Answered with PlacesFound."""

    view: View
    light: Light
    staging: Staging = WHOLE


@dataclass(frozen=True, slots=True)
class PlacesFound(Reply):
    """The places of a view are in the cache under a ``name``, empty where nothing is to be reckoned."""

    view: View
    light: Light
    name: str


@dataclass(frozen=True, slots=True)
class LightPlaces(Order):
    """Reckon the light of places ``found`` in the models of a project that lies at a path, for a Frame's
    ``picture``; none found: leave off.  Answered with PlacesLit, several times."""

    project: Project
    path: str
    picture: str = ""
    found: PlacesFound | None = None


@dataclass(frozen=True, slots=True)
class PlacesLit(Reply):
    """How far the light of a Frame's ``picture`` has come, and whether there is more to see than before."""

    picture: str
    share: float
    more: bool = False

    @property
    def final(self) -> bool:
        return self.share >= 1.0


@dataclass(frozen=True, slots=True)
class MoreLightKnown(Reply):
    """A light that is not the project's is in the cache."""

    light: Light
