"""What the children of the window can be asked for; each order goes out under a revision that comes back with
its answer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from altana.app.workspace.child import ServingChild
from altana.core.camera.view import View
from altana.core.project import Camera, Light, Limits, Project, Walk
from altana.core.staging import WHOLE, Staging
from altana.jobs.orders import (
    CheckFilm,
    CheckPicture,
    CheckPictures,
    CheckWalk,
    Cover,
    DrawFinished,
    DrawPicture,
    DrawPlan,
    DrawRound,
    DrawSection,
    FindPlaces,
    Order,
    ProposeExposure,
    See,
    StopCovering,
    Unroll,
)
from altana.jobs.requests import Picture
from altana.jobs.service import Task

#: What a picture consists of is reckoned at this width.
FACTS_PX = 256
SEEN_CHANNEL = "seen"
#: Before the channel of the picture whose places are looked for.
PLACES = "places:"


def needed(project: Project) -> Project:
    """What the children need of a project: its models and its light; hundreds of cameras would only be
    copied."""
    return replace(project, cameras=(), walks=(), planned=())


class Ordering(QObject):
    """Sends orders to two children: ``pictures`` draws, ``drafting`` draws plans and looks at walks."""

    covering = Signal(float)

    def __init__(self, pictures: ServingChild, drafting: ServingChild) -> None:
        super().__init__()
        self.pictures, self.drafting = pictures, drafting
        self._revision = 0

    def _next(self) -> int:
        self._revision += 1
        return self._revision

    def _order(self, child: ServingChild, channel: str, urgency: int, order: Order) -> int:
        revision = self._next()
        child.send(Task(channel, revision, urgency, order))
        return revision

    @property
    def ordered(self) -> int:
        """How many orders have gone out."""
        return self._revision

    def order_picture(
        self,
        channel: str,
        look: str,
        view: View,
        light: Light,
        ev: float,
        inside: bool,
        urgency: int,
        staging: Staging = WHOLE,
    ) -> int:
        """Ask for a picture; its revision comes back with ``picture``."""
        return self._order(
            self.pictures, channel, urgency, DrawPicture(look, view, light, ev, inside, staging)
        )

    def order_places(self, channel: str, view: View, light: Light, staging: Staging) -> None:
        """Ask where the places lie that a picture shows, so that their own light be reckoned."""
        self._order(self.pictures, f"{PLACES}{channel}", 5, FindPlaces(view, light, staging))

    def order_round(
        self,
        channel: str,
        look: str,
        camera: Camera,
        light: Light,
        urgency: int,
        staging: Staging,
        width_px: int,
    ) -> int:
        """Ask for a panorama of a camera's place, so wide; it comes with ``picture`` under this revision."""
        return self._order(self.pictures, channel, urgency, DrawRound(look, camera, light, staging, width_px))

    def order_finished(self, channel: str, item: Picture, project: Project, base: Path, urgency: int) -> int:
        """Ask for a still as its file will show it; it comes with ``picture`` under this revision."""
        bare = replace(needed(project), models=(), patches=(), shots=())
        return self._order(self.pictures, channel, urgency, DrawFinished(item, bare, str(base)))

    def order_exposure(self, wanted: Sequence[tuple[Camera, Staging]], light: Light) -> None:
        """Ask which exposure brings the middle of each camera's picture to middle grey; it comes with
        ``exposed`` by camera."""
        self._order(self.pictures, "exposure", 2, ProposeExposure(tuple(wanted), light))

    def order_facts(self, camera_id: str, view: View, staging: Staging, width_px: int = FACTS_PX) -> int:
        """Ask what a picture consists of, looked at so wide; the answer comes with ``composed`` under this
        revision."""
        return self._order(
            self.pictures, f"facts:{camera_id}", 2, CheckPicture(camera_id, view, width_px, staging)
        )

    def order_checks(self, wanted: Sequence[tuple[str, View, Staging]]) -> None:
        """Ask for the checks of many cameras (id, view, staging); each comes with ``checked``.  None: leave
        off."""
        self._order(self.pictures, "checks", 6, CheckPictures(tuple(wanted), FACTS_PX))

    def order_coverage(self, project: Project, cameras: Sequence[str], walks: Sequence[str]) -> None:
        """Ask what these cameras and walks see of the model; it comes with ``covering`` and ``covered``."""
        self._order(self.pictures, "coverage", 7, Cover(project, tuple(cameras), tuple(walks)))

    def stop_coverage(self) -> None:
        """Leave off what is under way."""
        self._order(self.pictures, "coverage", 7, StopCovering())
        self.covering.emit(1.0)

    def order_seen(self, cameras: Sequence[Camera]) -> None:
        """Ask what each camera sees; the answer comes with ``seen``."""
        views = {
            item.id: item.view(FACTS_PX, max(8, round(FACTS_PX * item.height_px / item.width_px)))
            for item in cameras
        }
        self._order(self.pictures, SEEN_CHANNEL, 0, See(views))

    def order_plan(self, channel: str, floor_m: float, cut_m: float, hidden: tuple[int, ...] = ()) -> None:
        """Ask for a plan without the hidden objects; it comes back with ``plan`` on its channel."""
        self._order(self.drafting, channel, 1, DrawPlan(floor_m, cut_m, hidden))

    def order_section(
        self, origin: tuple[float, float], heading_deg: float, quick: bool, hidden: tuple[int, ...] = ()
    ) -> None:
        """Ask for the section along a line of sight; a quick one shows the cut only."""
        self._order(self.drafting, "section", 0, DrawSection(origin, heading_deg, quick, hidden))

    def order_walk_check(self, walk: Walk, limits: Limits) -> None:
        """Ask what is wrong with a walk; the answer comes with ``walk_checked``."""
        self._order(self.drafting, "walk", 3, CheckWalk(walk, limits))

    def order_film_check(self, walk: Walk, project: Project) -> None:
        """Ask what the film frames of a walk show of cut faces and gaps; the answer comes with
        ``film_checked``."""
        self._order(
            self.pictures, "film", 8, CheckFilm(walk, replace(needed(project), models=(), patches=()))
        )

    def order_unrolled(self, walk: Walk) -> None:
        """Ask for the long section of a walk's route; it comes with ``unrolled``."""
        self._order(self.drafting, "unrolled", 2, Unroll(walk))
