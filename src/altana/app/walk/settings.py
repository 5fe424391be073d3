"""The settings of a walk, group by group, and the button that makes its film."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from altana.app.theme.size_field import SizeField
from altana.app.theme.widgets import Group, button, stacked
from altana.app.theme.words import tr
from altana.app.walk.camera_here import CameraHereGroup
from altana.app.walk.edits import WalkEdits
from altana.app.walk.flags import FlagsGroup
from altana.app.walk.looking import LookingGroup
from altana.app.walk.places import PlacesGroup
from altana.app.walk.route_settings import RouteGroup
from altana.app.walk.timeline import Timeline
from altana.app.walk.timing import TimingGroup
from altana.app.walk.turntable import TurntableGroup
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import rate_words
from altana.core.edits.formats import FILM_SIZES
from altana.core.project import Walk
from altana.core.ranges import FILM_SIDE_PX
from altana.core.walk.sample import WalkLine


class FilmGroup:
    """The size of the film."""

    def __init__(self, edits: WalkEdits) -> None:
        self.group = Group(tr("Film"))
        self.size = SizeField(FILM_SIZES, FILM_SIDE_PX.low, FILM_SIDE_PX.high, free=True, even=True)
        self.width, self.height = self.size.width_field, self.size.height_field
        self.size.changed.connect(
            lambda wide, high: edits.set(tr("Film size"), width_px=wide, height_px=high)
        )
        self.group.add_wide(self.size)

    def show_walk(self, walk: Walk) -> None:
        """Follow the chosen walk."""
        self.size.own = (walk.width_px, walk.height_px)
        self.size.show_size(walk.width_px, walk.height_px)
        self.group.show_figure(
            tr(
                "{wide} × {high}, {rate} a s",
                wide=walk.width_px,
                high=walk.height_px,
                rate=rate_words(walk.rate).split()[0],
            )
        )


class WalkSettings(QWidget):
    """Shows the chosen walk and its chosen places, and changes them."""

    make_film = Signal()

    def __init__(self, workspace: Workspace, timeline: Timeline) -> None:
        super().__init__()
        self._state = workspace.state
        self.edits = edits = WalkEdits(workspace.bridge, workspace.state, timeline)
        self.timing = TimingGroup(workspace, edits, timeline)
        self.places = PlacesGroup(workspace, edits, timeline)
        self.camera_here = CameraHereGroup(workspace, edits, timeline)
        self.looking = LookingGroup(workspace, edits, timeline)
        self.table = TurntableGroup(workspace, edits, timeline)
        self.route = RouteGroup(workspace, edits, timeline)
        self.flags = FlagsGroup(edits)
        self.film_size = FilmGroup(edits)
        self._groups = (
            self.timing.group,
            self.film_size.group,
            self.places.group,
            self.camera_here.group,
            self.looking.group,
            self.table.group,
            self.route.group,
            self.flags.group,
        )
        for group in (self.camera_here.group, self.looking.group, self.route.group):
            group.fold()
        self.setObjectName("chrome")
        self.setFixedWidth(276)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(8)
        column.addWidget(stacked(self._groups), 1)
        tip = tr("A film of this walk, or of a part of it, in the background (key Ctrl+E)")
        self.film = button(tr("Make film…"), "primary", tip, self.make_film.emit)
        column.addWidget(self.film)

    def show_walk(self, line: WalkLine | None) -> None:
        """Follow the chosen walk; ``line`` is its route, None where it has none."""
        self.edits.line, walk = line, self._state.walk
        for group in self._groups:
            group.body.setEnabled(walk is not None)
        if walk is not None:
            turning = walk.turntable is not None
            for part in (self.places, self.camera_here, self.looking):
                part.group.setVisible(not turning)
            self.table.group.setVisible(turning)
            for shown in (self.route, self.table, self.timing, self.film_size, self.looking):
                shown.show_walk(walk)
        self.film.setEnabled(line is not None)
        self.show_places()

    def show_places(self) -> None:
        """Follow the chosen places."""
        self.camera_here.show_places(self.places.show_places())
