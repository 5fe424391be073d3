"""The Model desk: what the building consists of, what is wrong with it, what is hidden, and what a reload
changed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QStackedWidget, QVBoxLayout, QWidget

from altana.app.canvas.frame import FrameView
from altana.app.model.coverage import CoverageGroup
from altana.app.model.files import ModelFiles
from altana.app.model.found_cameras import FoundCameras
from altana.app.model.patches import PatchGroup
from altana.app.model.problems import ProblemGroup
from altana.app.model.reloading import Background, Reloading
from altana.app.model.rooms import RoomsGroup
from altana.app.model.tree import BY_CATEGORY, BY_STOREY, ObjectTree
from altana.app.theme.field_buttons import clearable
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import Group, Segments, button, label, rule, scrolling
from altana.app.theme.words import spoken, tr
from altana.app.workspace.view_state import ViewState
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import Floats
from altana.core.edits.left_out import leave_out
from altana.core.hiding import NOTHING_HIDDEN, Hiding
from altana.core.model import Model
from altana.core.project import LeftOut, Project
from altana.core.targets import view_of


class ModelDesk(QWidget):
    """Objects at the left, the building in the middle, facts and problems at the right."""

    reload_wanted = Signal()
    take_in_wanted = Signal()
    send_wanted = Signal()
    reopen_wanted = Signal()
    add_model_wanted = Signal()
    compose_wanted = Signal()

    def __init__(
        self,
        workspace: Workspace,
        tokens: Tokens,
        thumb: Callable[[str], QImage | None],
        background: Background,
    ) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._workspace = workspace
        self._bridge, self._state, self._studio = bridge, state, studio
        # Looking about here has its own view; it shares what is hidden and what is chosen.
        self.look = ViewState(bridge)
        self.frame = FrameView(replace(workspace, state=self.look), tokens, "model", plain=True)
        self.frame.guides_on = False
        self.frame.keep_on_floor = False
        self.frame.choose_way("circle")
        self.reloading = Reloading(workspace, tokens, thumb, background)
        self.reloading.reopen_wanted.connect(self.reopen_wanted)
        self.tree = ObjectTree()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._left())
        row.addWidget(rule(vertical=True))
        self._middle = QStackedWidget()
        self._middle.addWidget(self.frame)
        self._middle.addWidget(self.reloading.comparison)
        self.reloading.shown.connect(lambda on: self._middle.setCurrentIndex(1 if on else 0))
        row.addWidget(self._middle, 1)
        row.addWidget(rule(vertical=True))
        row.addWidget(self._right())
        self._connect()

    def _left(self) -> QWidget:
        panel = QWidget()
        panel.setObjectName("chrome")
        panel.setFixedWidth(340)
        column = QVBoxLayout(panel)
        column.setContentsMargins(10, 10, 8, 8)
        column.setSpacing(6)
        self._order = Segments(
            [
                (tr("By storey"), tr("Storeys, then categories")),
                (tr("By category"), tr("Categories, then storeys")),
            ]
        )
        self._order.take(0)
        self._order.chosen.connect(self._reorder)
        column.addWidget(self._order)
        self.filter = QLineEdit()
        self.filter.setPlaceholderText(tr("Find an object"))
        self.filter.setAccessibleName(tr("Find an object"))
        self.filter.setToolTip(tr("Type part of a name, category or storey"))
        clearable(self.filter)
        self.filter.textChanged.connect(self.tree.filter)
        column.addWidget(self.filter)
        column.addWidget(self.tree, 1)
        hint = label(
            tr(
                "Here: hidden while working, never changes a picture. Pictures: left out of all pictures of the project."
            ),
            "quiet",
        )
        hint.setWordWrap(True)
        column.addWidget(hint)
        self._add_hiding(column)
        return panel

    def _add_hiding(self, column: QVBoxLayout) -> None:
        for line in (
            (
                button(
                    tr("Only these"),
                    "small",
                    tr("Show only the chosen rows while working"),
                    lambda: self.only(False),
                ),
                button(
                    tr("Others faint"),
                    "small",
                    tr("Show the chosen rows, and the rest faintly"),
                    lambda: self.only(True),
                ),
            ),
            (
                button(
                    tr("Show all"),
                    "small",
                    tr("Nothing hidden while working"),
                    lambda: self._state.hide(NOTHING_HIDDEN),
                ),
                button(
                    tr("As before"), "small", tr("Back to what was hidden before"), self._state.hide_as_before
                ),
            ),
        ):
            both = QHBoxLayout()
            both.setSpacing(6)
            for item in line:
                both.addWidget(item)
            column.addLayout(both)

    def _right(self) -> QWidget:
        panel = QWidget()
        panel.setObjectName("chrome")
        panel.setFixedWidth(264)
        inner = QWidget()
        inner.setObjectName("chrome")
        column = QVBoxLayout(inner)
        column.setContentsMargins(14, 10, 12, 8)
        column.setSpacing(6)
        self._facts_group = Group(tr("Model"))
        self.facts = label("", "quiet")
        self.facts.setWordWrap(True)
        self._facts_group.add_wide(self.facts)
        self.files = ModelFiles(self._workspace, self._facts_group, self.reopen_wanted.emit)
        self.reload_button = button(
            tr("Reload"),
            "small",
            tr("Read the model files again; cameras stay, and each says what changed in its view (key F5)"),
            self.reload_wanted.emit,
        )
        self._facts_group.add_wide(
            button(
                tr("Add a model…"),
                "small",
                tr("Another model or a DXF drawing into this project"),
                self.add_model_wanted.emit,
            ),
            self.reload_button,
        )
        self.problem_group = ProblemGroup(self._workspace, self.files, self.go_to)
        self.coverage = CoverageGroup(self._workspace, self.go_to, self)
        self.patch_group = PatchGroup(self._workspace, self.go_to)
        self.room_group = RoomsGroup(self._workspace, self.compose_wanted.emit)
        self.camera_group = FoundCameras(
            self._workspace, self.compose_wanted.emit, self.take_in_wanted.emit, self.send_wanted.emit
        )
        self._add_groups(column)
        scroll = scrolling(inner)
        outer = QVBoxLayout(panel)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(scroll)
        return panel

    def _add_groups(self, column: QVBoxLayout) -> None:
        for index, group in enumerate(
            (
                self._facts_group,
                self.room_group.group,
                self.problem_group.group,
                self.coverage.group,
                self.patch_group.group,
                self.camera_group.group,
                self.reloading.group,
            )
        ):
            if index:
                group.layout().insertWidget(0, rule())  # type: ignore[union-attr]
            column.addWidget(group)
        column.addStretch(1)

    def _connect(self) -> None:
        state = self._state
        self._studio.opened.connect(self._opened)
        self.tree.hidden_toggled.connect(self._hide)
        self.tree.left_out_toggled.connect(self._leave_out)
        self.tree.object_chosen.connect(state.choose_object)
        self.frame.picked.connect(state.choose_object)
        state.object_changed.connect(self._object_chosen)
        state.hiding_changed.connect(self._hiding_changed)
        self._bridge.left_out_changed.connect(self._show_marks)
        self.coverage.found.connect(lambda: self.tree.show_coverage(self.coverage.result))
        self.coverage.overlaid.connect(self._overlay)

    # ------------------------------------------------------------------ the model

    def _opened(self) -> None:
        scene = self._studio.scene
        model = scene.model if scene is not None else None
        self.tree.show_model(model)
        self._show_marks()
        self.problem_group.show_model(model)
        if model is not None:
            assert scene is not None
            self.look.overview, self.look.loose = scene.overview, None
            self.look.shown_changed.emit()
            self._show_facts(model, scene.bounds)
        self.files.refresh()
        self.patch_group.refresh()
        self.camera_group.show_model(model)
        self.room_group.show_model(model)
        self.reloading.opened()

    def _show_facts(self, model: Model, bounds: Floats) -> None:
        low, high = bounds
        size = " × ".join(f"{b - a:.1f}" for a, b in zip(low.tolist(), high.tolist(), strict=True))
        lines = [
            tr(
                "{faces:,} triangles in {objects} objects", faces=len(model.faces), objects=len(model.objects)
            ).replace(",", " "),
            tr("{size} m, unit {unit}", size=size, unit=spoken(model.unit)),
            tr(
                "{storeys} storeys, {rooms} rooms, {materials} materials",
                storeys=len(model.storeys),
                rooms=len(model.rooms),
                materials=len(model.materials),
            ),
        ]
        if len(model.linework.points):
            lines.append(
                tr(
                    "{lines} reference lines on %n layers",
                    "",
                    len(model.linework.layers),
                    lines=len(model.linework.points),
                )
            )
        self.facts.setText("\n".join(lines))
        self._facts_group.show_figure(model.source if len(model.source) < 26 else f"{model.source[:23]}…")

    def go_to(self, object_id: str) -> None:
        """Look at an object from where it can be seen, choose it, and show its row."""
        scene = self._studio.scene
        number = scene.lookup.index.get(object_id) if scene is not None else None
        if scene is None or number is None:
            return
        self._middle.setCurrentIndex(0)
        self._state.choose_object(object_id)
        self.look.look(view_of(scene.model, scene.rays, number))

    # ------------------------------------------------------------------ hiding and leaving out

    def _reorder(self, index: int) -> None:
        self.tree.by = BY_STOREY if index == 0 else BY_CATEGORY
        self.tree.show_model(self._studio.scene.model if self._studio.scene is not None else None)
        self._show_marks()

    def _show_marks(self) -> None:
        self.tree.show_marks(self._state.hiding, self._bridge.project.left_out)

    def _hiding_changed(self) -> None:
        self.look.hiding = self._state.hiding
        self.look.hiding_changed.emit()
        self._show_marks()

    def _hide(self, kind: str, name: str, hide: bool) -> None:
        hiding = self._state.hiding
        for one in name.split("\n"):
            hiding = hiding.turned("objects" if kind == "many" else kind, one, hide)
        self._state.hide(hiding)

    def _leave_out(self, kind: str, name: str, out: bool) -> None:
        def edit(project: Project) -> Project:
            for one in name.split("\n"):
                project = leave_out(project, (), "objects" if kind == "many" else kind, one, out)
            return project

        self._bridge.apply(tr("Leave out of pictures") if out else tr("Show in pictures"), edit)
        self._show_marks()

    def only(self, faint: bool) -> None:
        """Show only the chosen rows, or the rest faintly."""
        ids = [object_id for item in self.tree.chosen_items() for object_id in self.tree.members(item)]
        if not ids and self._state.object_id:
            ids = [self._state.object_id]
        if ids:
            self._state.hide(Hiding(self._state.hiding.hidden, LeftOut(tuple(dict.fromkeys(ids))), faint))

    def _object_chosen(self) -> None:
        self.look.object_id = self._state.object_id
        self.tree.choose(self._state.object_id)
        self.frame.update()

    # ------------------------------------------------------------------ coverage and mends of ours

    def _overlay(self, on: bool) -> None:
        """What is never seen stands out from the rest, which is faint; only here, and only while it is
        wanted."""
        hiding = self._state.hiding
        never = self.coverage.never
        self.look.hiding = Hiding(hiding.hidden, LeftOut(never), True) if on and never else hiding
        self.look.hiding_changed.emit()
