"""The walks of a project as a list, and the three ways to begin one: drawn on the plan, through cameras,
round a thing."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import numpy as np
from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from altana.app.canvas.plan import PlanView
from altana.app.theme.plain_text import short_name
from altana.app.theme.widgets import button, label, scrolling
from altana.app.theme.words import tr
from altana.app.walk.route import RouteOnPlan
from altana.app.workspace.bridge import AddingEdit
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import STANDING_M
from altana.core.edits.walks import add_walk, set_walk
from altana.core.project import Walk, WalkKey
from altana.core.staging import object_points
from altana.core.standing import ground_at
from altana.core.walk.stair import STAIR, walk_up
from altana.core.walk.start import EV_INSIDE, EV_ROUND, alike, turntable_for, walk_of_cameras, walk_through


class WalkList(QWidget):
    """``added`` when a walk was begun; it is the chosen one."""

    added = Signal()
    #: Fills the menu of a walk that is pressed with the right button.
    fill_menu: Callable[[QMenu], object] = staticmethod(lambda _: None)

    def __init__(self, workspace: Workspace, plan: PlanView, route: RouteOnPlan) -> None:
        super().__init__()
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._background = workspace.background
        self.plan, self.route = plan, route
        self._rows_of: list[tuple[Walk, bool, bool]] | None = None
        self._build()
        plan.place_clicked.connect(self.add_place)
        self._bridge.cameras_changed.connect(self.show_buttons)
        self._state.selection_changed.connect(self.show_buttons)
        self._state.object_changed.connect(self.show_buttons)

    def _build(self) -> None:
        self.setObjectName("chrome")
        self.setFixedWidth(224)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 8)
        column.setSpacing(7)
        self._make_buttons()
        column.addWidget(self.draw)
        column.addWidget(self.from_cameras)
        column.addWidget(self.turn)
        column.addWidget(self.stair)
        self._hint = label("", "quiet")
        self._hint.setWordWrap(True)
        column.addWidget(self._hint)
        column.addWidget(label(tr("WALKS AND TURNTABLES"), "heading"))
        self._rows = QVBoxLayout()
        self._rows.setSpacing(5)
        self._rows.setContentsMargins(0, 0, 4, 0)
        inner = QWidget()
        inner.setObjectName("chrome")
        inner.setLayout(self._rows)
        scroll = scrolling(inner)
        column.addWidget(scroll, 1)

    def _make_buttons(self) -> None:
        """The ways to begin a walk."""
        self.draw = button(
            tr("Draw a route"),
            "outline",
            tr(
                "Press places on the plan one after the other; Return ends the route, Escape drops it (key R)"
            ),
            checkable=True,
        )
        self.draw.toggled.connect(self._toggled)
        self.from_cameras = button(
            tr("Walk the chosen cameras"),
            "",
            tr(
                "A walk through the cameras chosen in the strip, in the order they were chosen (Control-press adds one)"
            ),
            self.walk_cameras,
        )
        self.turn = button(
            tr("Turntable: whole building"),
            "",
            tr(
                "Round the chosen object, or the whole building where none is: closes without a repeated frame. Press an object in the Frame to choose it"
            ),
            self.add_turntable,
        )
        self.stair = button(
            tr("Up the chosen stair"),
            "",
            tr(
                "A walk up the chosen object, a stair of any shape, at the eye's height over its treads, from floor to floor. Press a stair in the Frame to choose it"
            ),
            self.add_stair,
        )

    def _toggled(self, on: bool) -> None:
        self.route.drawing, self.route.drawn = on, []
        self.plan.drawing_route = on
        self.plan.update()
        self.plan.setFocus()
        self.show_buttons()

    def add_place(self, x: float, y: float, storey_m: float) -> None:
        """One more place of the route that is drawn."""
        scene = self._studio.scene
        ground = ground_at(scene.floors, (x, y), storey_m) if scene is not None else None
        if ground is None:
            self._bridge.notices.trouble(
                tr(
                    "There is no floor here to walk on. Press a place on the building or the ground around it."
                )
            )
            return
        self.route.drawn.append(
            WalkKey((x, y, ground.floor_m + STANDING_M), ev=EV_INSIDE if ground.inside else EV_ROUND)
        )
        self.show_buttons()
        self.plan.update()

    def end_route(self) -> None:
        """The places pressed so far become a walk."""
        keys = tuple(self.route.drawn)
        self.draw.setChecked(False)
        if len(keys) >= 2:
            self._begin(lambda project: add_walk(project, alike(walk_through(keys), project)))

    def add_turntable(self) -> None:
        """A turntable round the chosen object, or round what most of the building is."""
        scene = self._studio.scene
        if scene is None:
            return
        number = scene.lookup.index.get(self._state.object_id)
        if number is not None:
            points, name = object_points(scene.model, number).astype(float), scene.model.objects[number].name
        else:
            outlines = [
                (x, y, z)
                for room in scene.model.rooms
                for x, y in room.outline
                for z in (room.floor_m, room.ceiling_m)
            ]
            points, name = (np.array(outlines) if outlines else scene.bounds), self._bridge.project.name
        self._begin(lambda project: add_walk(project, turntable_for(np.asarray(points, float), name)))

    def add_stair(self) -> None:
        """A walk up the chosen object, which is a stair; up the only stair of the model where nothing is
        chosen."""
        scene = self._studio.scene
        if scene is None:
            return
        number = scene.lookup.index.get(self._state.object_id)
        if number is None:
            stairs = [index for index, item in enumerate(scene.model.objects) if item.category == STAIR]
            if len(stairs) != 1:
                self._bridge.notices.trouble(
                    tr("Choose the stair first: press it in the Frame, or find it by its name.")
                )
                return
            (number,) = stairs

        def found(walk: Walk) -> None:
            if self._studio.scene is scene:
                self._begin(lambda project: add_walk(project, alike(walk, project)))

        # Treads are looked for beside the window: what was chosen may be finely meshed.
        self._background.run(
            "finding a stair", lambda: walk_up(scene.model, number, scene.rays, scene.floors), found
        )

    def _begin(self, edit: AddingEdit) -> None:
        created = self._bridge.apply_adding(tr("Add walk"), edit)
        if created:
            self._state.choose_walk(created)
            self.added.emit()

    def walk_cameras(self) -> None:
        """A walk through the selected cameras, in the order they were chosen."""
        cameras = [
            camera
            for item in self._state.selected
            if (camera := self._bridge.project.camera(item)) is not None
        ]
        if len(cameras) >= 2:
            self._begin(lambda project: add_walk(project, alike(walk_of_cameras(cameras), project)))

    def show_walks(self, walks: tuple[Walk, ...]) -> None:
        """Follow the project."""
        known = self._studio.scene is not None
        wanted = [(walk, walk.id == self._state.walk_id, known) for walk in walks]
        if wanted == self._rows_of:
            return
        self._rows_of = wanted
        while self._rows.count():
            item = self._rows.takeAt(0)
            if item is not None and (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        for walk, chosen, _ in wanted:
            self._rows.addWidget(self._row(walk, chosen))
        if not walks:
            empty = label(tr("No walks yet."), "quiet")
            self._rows.addWidget(empty)
        self._rows.addStretch(1)

    def _row(self, walk: Walk, chosen: bool) -> QWidget:
        """One walk: its name, what it is, how long, on which storeys, and whether its route shows on the
        plan."""
        line = QWidget()
        row = QHBoxLayout(line)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(3)
        what = tr("turntable") if walk.turntable is not None else self._storeys(walk)
        facts = f"{walk.seconds:g} s · {what}" + (tr(" · locked") if walk.locked else "")
        name = self.fontMetrics().elidedText(walk.name, Qt.TextElideMode.ElideMiddle, 134)
        short = self.fontMetrics().elidedText(facts, Qt.TextElideMode.ElideRight, 138)
        row_button = button(
            f"{name}\n{short}",
            "",
            tr("{name}: {facts}, {rate} film frames a second", name=walk.name, facts=facts, rate=walk.rate),
            checkable=True,
        )
        row_button.setStyleSheet("text-align: left; padding: 5px 8px; min-height: 34px;")
        row_button.setAccessibleName(walk.name)
        row_button.setChecked(chosen)
        row_button.clicked.connect(partial(self._state.choose_walk, walk.id))
        row_button.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        row_button.customContextMenuRequested.connect(lambda at: self._menu(walk, row_button.mapToGlobal(at)))
        row_button.setMinimumHeight(2 * self.fontMetrics().lineSpacing() + 14)
        shown = button(
            tr("Plan", "button"),
            "small",
            tr("Show its route on the plan while another walk is worked on, or not"),
            checkable=True,
        )
        shown.setAccessibleName(tr("Show the route of {name} on the plan", name=walk.name))
        shown.setFixedWidth(38)
        shown.setChecked(not walk.hidden)
        shown.clicked.connect(partial(self._show_route, walk))
        row.addWidget(row_button, 1)
        row.addWidget(shown)
        return line

    def _menu(self, walk: Walk, at: QPoint) -> None:
        """What can be done with a walk where it is listed."""
        self._state.choose_walk(walk.id)
        menu = QMenu(self)
        self.fill_menu(menu)
        menu.popup(at)

    def _storeys(self, walk: Walk) -> str:
        """The storeys that a walk's places lie on, in the order of the walk."""
        scene = self._studio.scene
        if scene is None:
            return tr("%n places", "", len(walk.keys))
        names: list[str] = []
        for key in walk.keys:
            storey = scene.model.storey_of_eye(key.eye)
            if storey is not None and storey.name not in names:
                names.append(storey.name)
        return " – ".join([names[0], names[-1]] if len(names) > 1 else names)

    def _show_route(self, walk: Walk, *_: object) -> None:
        self._bridge.apply(
            tr("Hide route") if not walk.hidden else tr("Show route"),
            lambda project: set_walk(project, walk.id, hidden=not walk.hidden),
        )

    def show_buttons(self) -> None:
        """Follow what is chosen, and the route that is drawn."""
        chosen = len(self._state.selected)
        scene = self._studio.scene
        number = scene.lookup.index.get(self._state.object_id) if scene is not None else None
        name = scene.model.objects[number].name if scene is not None and number is not None else ""
        self.turn.setText(
            tr("Turntable: {name}", name=short_name(name)) if name else tr("Turntable: whole building")
        )
        is_stair = scene is not None and number is not None and scene.model.objects[number].category == STAIR
        self.stair.setText(tr("Up: {name}", name=short_name(name)) if is_stair else tr("Up the chosen stair"))
        self.from_cameras.setEnabled(chosen >= 2)
        if self.draw.isChecked():
            count = len(self.route.drawn)
            self._hint.setText(
                tr("%n places. Press the next one on the plan; Return ends the route.", "", count)
                if count
                else tr("Press the first place on the plan.")
            )
        elif chosen >= 2:
            self._hint.setText(tr("%n cameras are chosen.", "", chosen))
        else:
            self._hint.setText(tr("Or choose several cameras in Compose with Control."))
