"""What every desk works with: the document, what is shown of it, the model that is open, and what is said to
the person."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from altana.app.workspace.background import Background
from altana.app.workspace.bridge import Bridge
from altana.app.workspace.camera_edits import CameraEdits
from altana.app.workspace.check_book import CheckBook
from altana.app.workspace.child import Child, ServingChild
from altana.app.workspace.exposing import Exposing
from altana.app.workspace.fits import Fits
from altana.app.workspace.notices import Notices
from altana.app.workspace.own_lights import OwnLights
from altana.app.workspace.passing import Passing
from altana.app.workspace.reference_lines import ReferenceLines
from altana.app.workspace.studio import Studio
from altana.app.workspace.view_state import ViewState
from altana.core.project import Project


@dataclass(frozen=True, slots=True)
class Workspace:
    """The parts; a view that looks at something of its own gets a workspace with another ``state``."""

    notices: Notices
    background: Background
    bridge: Bridge
    state: ViewState
    studio: Studio
    book: CheckBook
    edits: CameraEdits
    exposing: Exposing
    fits: Fits
    passing: Passing
    lines: ReferenceLines
    own_lights: OwnLights

    @classmethod
    def started(cls, child: Callable[..., ServingChild] = Child) -> Workspace:
        """An empty project, and the children that draw."""
        notices = Notices()
        background = Background(notices)
        bridge = Bridge(Project(), notices)
        studio = Studio(notices, background, lambda: bridge.project, child)
        state = ViewState(bridge)
        book, edits, exposing = (
            CheckBook(bridge, studio),
            CameraEdits(bridge, state),
            Exposing(bridge, studio),
        )
        passing = Passing(bridge, studio, exposing)
        return cls(
            notices,
            background,
            bridge,
            state,
            studio,
            book,
            edits,
            exposing,
            Fits(),
            passing,
            ReferenceLines(),
            OwnLights(bridge, state, studio),
        )
