"""The Model desk: what the building consists of, what is wrong with it, what is hidden, and what a reload changed."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QFont, QImage, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from altana.app.canvas.frame import FrameView
from altana.app.model.coverage import CoverageGroup
from altana.app.model.files import ModelFiles, remedy_words
from altana.app.model.tree import BY_CATEGORY, BY_STOREY, ObjectTree
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import Group, Segments, button, label, rule
from altana.app.workspace.view_state import ViewState
from altana.app.workspace.workspace import Workspace
from altana.core.checks.changes import Changes, Seen, ViewChange, compare, in_view
from altana.core.conventions import Floats
from altana.core.edits.cameras import add_camera, from_file
from altana.core.edits.keeping import leave_out
from altana.core.hiding import NOTHING_HIDDEN, Hiding
from altana.core.model import FoundCamera, Model, Problem
from altana.core.patching import remove_patch, turn_patch
from altana.core.project import LeftOut, Project
from altana.core.targets import view_of

#: Does something slow in a thread, under a name, and what it returns in the window afterwards.
Background = Callable[[str, Callable[[], Callable[[], object]]], None]


@dataclass(slots=True)
class Reload:
    """A reload that goes on: the model and views of before, and the pictures on the cards."""

    model: Model
    seen: Mapping[str, Seen] = field(default_factory=dict)
    pictures: dict[str, QImage] = field(default_factory=dict)
    opened: bool = False


class BeforeAfter(QWidget):
    """Two pictures of one camera: before and after the model was reloaded."""

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        self._tokens = tokens
        self.before: QImage | None = None
        self.after: QImage | None = None
        self.title = ""
        self.lines: tuple[str, ...] = ()
        self.setAccessibleName("Before and after")
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)

    def show_change(
        self, title: str, lines: tuple[str, ...], before: QImage | None, after: QImage | None
    ) -> None:
        """Show one camera's change."""
        self.title, self.lines, self.before, self.after = title, lines, before, after
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        """Both pictures side by side, what changed below."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        bottom = 0.0
        for (word, image), box in zip(
            (("before", self.before), ("after", self.after)), self._boxes(), strict=True
        ):
            if image is not None:
                painter.drawImage(box, image)
            else:
                painter.fillRect(box, QColor("#8A8A8A"))
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.drawRect(box)
            self._words(painter, QRectF(box.left(), box.bottom() - 22, 90, 22), word)
            bottom = max(bottom, box.bottom())
        self._words(painter, QRectF(16, 12, self.width() - 32, 22), self.title, bold=True)
        for number, line in enumerate(self.lines[:8]):
            self._words(painter, QRectF(16, bottom + 12 + number * 23, self.width() - 32, 20), line)
        painter.end()

    def _boxes(self) -> list[QRectF]:
        """The two pictures' places: beside each other or one above the other, whichever shows them larger."""
        shown = self.after or self.before
        proportion = shown.width() / shown.height() if shown is not None else 1.6
        lines = 23 * min(len(self.lines), 8) + 24
        wide, high = self.width() - 32.0, self.height() - 44.0 - lines
        beside = min((wide - 12) / 2, high * proportion)
        above = min(wide, (high - 12) / 2 * proportion)
        width = max(beside, above, 60.0)
        size = (width, width / proportion)
        second = (0.0, size[1] + 12) if above > beside else (width + 12, 0.0)
        return [QRectF(16 + dx, 44 + dy, *size) for dx, dy in ((0.0, 0.0), second)]

    def _words(self, painter: QPainter, box: QRectF, text: str, bold: bool = False) -> None:
        painter.setFont(text_font(9.5, QFont.Weight.Bold if bold else QFont.Weight.Normal))
        wide = min(painter.fontMetrics().horizontalAdvance(text) + 16.0, box.width())
        band = QRectF(box.left(), box.top(), wide, box.height())
        painter.fillRect(band, QColor(self._tokens.band))
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(
            band,
            Qt.AlignmentFlag.AlignCenter,
            painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(wide - 10)),
        )


class ModelDesk(QWidget):
    """Objects at the left, the building in the middle, facts and problems at the right."""

    reload_wanted = Signal()
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
        self._bridge, self._state, self._studio, self._thumb = bridge, state, studio, thumb
        self._background = background
        # Looking about here has its own view; it shares what is hidden and what is chosen.
        self.look = ViewState(bridge)
        self.frame = FrameView(replace(workspace, state=self.look), tokens, "model", plain=True)
        self.frame.guides_on = False
        self.frame.keep_on_floor = False
        self.frame.choose_way("circle")
        self.comparison = BeforeAfter(tokens)
        self.tree = ObjectTree()
        self._problems: list[Problem] = []
        self._reload: Reload | None = None
        self.changes: tuple[ViewChange, ...] = ()
        self._before: dict[str, QImage] = {}
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._left())
        row.addWidget(rule(vertical=True))
        self._middle = QStackedWidget()
        self._middle.addWidget(self.frame)
        self._middle.addWidget(self.comparison)
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
            [("By storey", "Storeys, then categories"), ("By category", "Categories, then storeys")]
        )
        self._order.take(0)
        self._order.chosen.connect(self._reorder)
        column.addWidget(self._order)
        self.filter = QLineEdit()
        self.filter.setPlaceholderText("Find an object")
        self.filter.setAccessibleName("Find an object")
        self.filter.setToolTip("Type part of a name, category or storey")
        self.filter.setClearButtonEnabled(True)
        self.filter.textChanged.connect(self.tree.filter)
        column.addWidget(self.filter)
        column.addWidget(self.tree, 1)
        hint = label(
            "Here: hidden while working, never changes a picture. Pictures: left out of all pictures of the project.",
            "quiet",
        )
        hint.setWordWrap(True)
        column.addWidget(hint)
        for line in (
            (
                button(
                    "Only these", "small", "Show only the chosen rows while working", lambda: self.only(False)
                ),
                button(
                    "Others faint",
                    "small",
                    "Show the chosen rows, and the rest faintly",
                    lambda: self.only(True),
                ),
            ),
            (
                button(
                    "Show all",
                    "small",
                    "Nothing hidden while working",
                    lambda: self._state.hide(NOTHING_HIDDEN),
                ),
                button("As before", "small", "Back to what was hidden before", self._state.hide_as_before),
            ),
        ):
            both = QHBoxLayout()
            both.setSpacing(6)
            for item in line:
                both.addWidget(item)
            column.addLayout(both)
        return panel

    def _right(self) -> QWidget:
        panel = QWidget()
        panel.setObjectName("chrome")
        panel.setFixedWidth(264)
        inner = QWidget()
        inner.setObjectName("chrome")
        column = QVBoxLayout(inner)
        column.setContentsMargins(14, 10, 12, 8)
        column.setSpacing(6)
        self._facts_group = Group("Model")
        self.facts = label("", "quiet")
        self.facts.setWordWrap(True)
        self._facts_group.add_wide(self.facts)
        self.files = ModelFiles(self._workspace, self._facts_group, self.reopen_wanted.emit)
        self.reload_button = button(
            "Reload",
            "small",
            "Read the model files again; cameras stay, and each says what changed in its view (key F5)",
            self.reload_wanted.emit,
        )
        self._facts_group.add_wide(
            button(
                "Add a model…",
                "small",
                "Another model or a DXF drawing into this project",
                self.add_model_wanted.emit,
            ),
            self.reload_button,
        )
        self._problem_group = Group("Problems")
        self.problems = _list("Problems", 128, self._go_to_problem)
        self._problem_group.add_wide(self.problems)
        self.coverage = CoverageGroup(self._workspace, self.go_to, self)
        self.patches = _list("Mends of ours", 74, self._go_to_patch)
        self._patch_group = Group("Mends of ours")
        self._patch_group.add_wide(self.patches)
        self._patch_group.add_wide(
            button("On or off", "small", "Switch the chosen mend", self._turn_patch),
            button("Take back", "small", "Remove the chosen mend; undo brings it back", self._remove_patch),
        )
        self._camera_group = Group("Cameras in the file")
        self.found = _list("Cameras in the file", 74, lambda _: self.take_over(False))
        self._camera_group.add_wide(self.found)
        self._camera_group.add_wide(
            button(
                "Take this",
                "small",
                "Make the chosen camera of the file one of the project's",
                lambda: self.take_over(False),
            ),
            button(
                "Take all",
                "small",
                "Make all cameras of the file the project's",
                lambda: self.take_over(True),
            ),
        )
        self._change_group = Group("Changed")
        self.changed = _list("What the reload changed", 120, self._show_change)
        self.changed.currentRowChanged.connect(lambda _: self._show_change(self.changed.currentItem()))
        self._change_group.add_wide(self.changed)
        self._change_group.add_wide(
            button(
                "Back to the model",
                "small",
                "Show the building again",
                lambda: self._middle.setCurrentIndex(0),
            )
        )
        for index, group in enumerate(
            (
                self._facts_group,
                self._problem_group,
                self.coverage.group,
                self._patch_group,
                self._camera_group,
                self._change_group,
            )
        ):
            if index:
                group.layout().insertWidget(0, rule())  # type: ignore[union-attr]
            column.addWidget(group)
        self._change_group.hide()
        column.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(inner)
        outer = QVBoxLayout(panel)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(scroll)
        return panel

    def _connect(self) -> None:
        state = self._state
        self._studio.opened.connect(self._opened)
        self._studio.surveyed.connect(self._surveyed)
        self._studio.seen.connect(self._seen)
        self.tree.hidden_toggled.connect(self._hide)
        self.tree.left_out_toggled.connect(self._leave_out)
        self.tree.object_chosen.connect(state.choose_object)
        self.frame.picked.connect(state.choose_object)
        state.object_changed.connect(self._object_chosen)
        state.hiding_changed.connect(self._hiding_changed)
        self._bridge.left_out_changed.connect(self._show_marks)
        self._bridge.patches_changed.connect(self._show_patches)
        self.coverage.found.connect(lambda: self.tree.show_coverage(self.coverage.result))
        self.coverage.overlaid.connect(self._overlay)

    # ------------------------------------------------------------------ the model

    def _opened(self) -> None:
        scene = self._studio.scene
        model = scene.model if scene is not None else None
        self.tree.show_model(model)
        self._show_marks()
        self._problems = list(model.problems) if model is not None else []
        self._show_problems()
        if model is not None:
            assert scene is not None
            self.look.overview, self.look.loose = scene.overview, None
            self.look.shown_changed.emit()
            self._show_facts(model, scene.bounds)
        self.files.refresh()
        self._show_patches()
        self._show_found(model)
        if self._reload is not None and model is not None:
            self._reload.opened = True
            self._studio.order_seen(self._bridge.project.cameras)

    def _show_facts(self, model: Model, bounds: Floats) -> None:
        low, high = bounds
        size = " × ".join(f"{b - a:.1f}" for a, b in zip(low.tolist(), high.tolist(), strict=True))
        lines = [
            f"{len(model.faces):,} triangles in {len(model.objects)} objects".replace(",", " "),
            f"{size} m, unit {model.unit}",
            f"{len(model.storeys)} storeys, {len(model.rooms)} rooms, {len(model.materials)} materials",
        ]
        if len(model.linework.points):
            lines.append(
                f"{len(model.linework.points)} reference lines on {len(model.linework.layers)} layers"
            )
        self.facts.setText("\n".join(lines))
        self._facts_group.show_figure(model.source if len(model.source) < 26 else f"{model.source[:23]}…")

    # ------------------------------------------------------------------ problems

    def _surveyed(self, found: tuple[Problem, ...]) -> None:
        known = {item.sentence for item in self._problems}
        self._problems += [item for item in found if item.sentence not in known]
        self._show_problems()

    def _show_problems(self) -> None:
        self.problems.clear()
        for problem in self._problems:
            words = remedy_words(problem)
            made = QListWidgetItem(
                f"{problem.sentence}"
                + (f"  {words}" if words else "  Go there ›" if problem.object_ids else "")
            )
            made.setData(Qt.ItemDataRole.UserRole, problem)
            press = (
                f"Press: {words.lower().removesuffix(' ›')}"
                if words
                else "Press: goes there; press again: the next one"
            )
            made.setToolTip(problem.sentence + (f"\n{press}" if words or problem.object_ids else ""))
            self.problems.addItem(made)
        if not self._problems:
            self.problems.addItem(QListWidgetItem("Nothing to report."))
        self._problem_group.show_figure(str(len(self._problems)) if self._problems else "none")

    def _go_to_problem(self, item: QListWidgetItem) -> None:
        problem = item.data(Qt.ItemDataRole.UserRole)
        if isinstance(problem, Problem) and problem.remedy:
            self.files.mend(problem)
            return
        if not isinstance(problem, Problem) or not problem.object_ids:
            return
        ids = problem.object_ids
        now = self._state.object_id
        self.go_to(ids[(ids.index(now) + 1) % len(ids)] if now in ids else ids[0])

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

        self._bridge.apply("Leave out of pictures" if out else "Show in pictures", edit)
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
        """What is never seen stands out from the rest, which is faint; only here, and only while it is wanted."""
        hiding = self._state.hiding
        never = self.coverage.never
        self.look.hiding = Hiding(hiding.hidden, LeftOut(never), True) if on and never else hiding
        self.look.hiding_changed.emit()

    def _show_patches(self) -> None:
        held = self._bridge.project.patches
        self.patches.clear()
        for patch in held:
            made = QListWidgetItem(f"{patch.name}{'' if patch.on else '  (off)'}")
            made.setData(Qt.ItemDataRole.UserRole, patch.id)
            made.setToolTip("A mend of ours on the model; the model's file is not changed. Press: goes there")
            self.patches.addItem(made)
        self._patch_group.setVisible(bool(held))
        self._patch_group.show_figure(str(len(held)))

    def _chosen_patch(self) -> str:
        item = self.patches.currentItem() or self.patches.item(0)
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    def _go_to_patch(self, item: QListWidgetItem) -> None:
        self.go_to(f"mend:{item.data(Qt.ItemDataRole.UserRole)}")

    def _turn_patch(self) -> None:
        chosen = self._chosen_patch()
        patch = next((item for item in self._bridge.project.patches if item.id == chosen), None)
        if patch is not None:
            self._bridge.apply(
                f"{patch.name} {'off' if patch.on else 'on'}", lambda p: turn_patch(p, patch.id, not patch.on)
            )

    def _remove_patch(self) -> None:
        chosen = self._chosen_patch()
        if chosen:
            self._bridge.apply("Take mend back", lambda project: remove_patch(project, chosen))

    # ------------------------------------------------------------------ cameras found

    def _show_found(self, model: Model | None) -> None:
        self.found.clear()
        cameras = model.cameras if model is not None else ()
        for camera in cameras:
            made = QListWidgetItem(f"{camera.name}  ·  {camera.focal_mm:.0f} mm")
            made.setData(Qt.ItemDataRole.UserRole, camera)
            made.setToolTip("Press Return or “Take this” to make it one of the project's cameras")
            self.found.addItem(made)
        self._camera_group.setVisible(bool(cameras))
        self._camera_group.show_figure(str(len(cameras)))

    def take_over(self, everything: bool) -> None:
        """Make cameras of the file cameras of the project; inside or outside is found by casting rays."""
        scene = self._studio.scene
        items = [self.found.item(row) for row in range(self.found.count())]
        chosen = items if everything else [item for item in items if item is self.found.currentItem()]
        if scene is None or not chosen:
            return

        def edit(project: Project) -> tuple[Project, str]:
            created = ""
            for item in chosen:
                found: FoundCamera = item.data(Qt.ItemDataRole.UserRole)
                project, created = add_camera(project, from_file(found, scene.rays.roofed(found.eye)))
            return project, created

        created = self._bridge.apply_adding("Take over cameras", edit)
        if created:
            self._state.select(created)
            self.compose_wanted.emit()

    # ------------------------------------------------------------------ reload

    def begin_reload(self) -> bool:
        """Note what every camera sees before the files are read again; False when there is nothing to compare with."""
        scene = self._studio.scene
        if scene is None or self._reload is not None:
            return False
        cameras = self._bridge.project.cameras
        self._reload = Reload(
            scene.model, pictures={c.id: image for c in cameras if (image := self._thumb(c.id)) is not None}
        )
        self._studio.order_seen(cameras)
        return True

    def _seen(self, found: Mapping[str, Seen]) -> None:
        reload = self._reload
        if reload is None:
            return
        if not reload.opened:
            reload.seen = found
            self.reopen_wanted.emit()
            return
        scene = self._studio.scene
        self._reload = None
        if scene is not None:
            self._compare(reload, scene.model, found)

    def _compare(self, reload: Reload, model: Model, after: Mapping[str, Seen]) -> None:
        """Every triangle of both models is looked at, which takes seconds for large ones."""

        def work() -> Callable[[], object]:
            changes = compare(reload.model, model)
            return lambda: self._tell_changes(reload, changes, after)

        self._background("Comparing with the model before", work)

    def abandon_reload(self) -> None:
        """The files could not be read: what was open stays open."""
        self._reload = None

    def _tell_changes(self, reload: Reload, changes: Changes, after: Mapping[str, Seen]) -> None:
        before = reload.seen
        told = [
            in_view(camera.id, changes, before.get(camera.id, {}), after.get(camera.id, {}))
            for camera in self._bridge.project.cameras
        ]
        self.changes = tuple(sorted((item for item in told if item.lines), key=lambda item: -item.share))
        self._before = reload.pictures
        self.changed.clear()
        for item in self.changes:
            camera = self._bridge.project.camera(item.camera_id)
            made = QListWidgetItem(
                f"{camera.name if camera else item.camera_id}: {len(item.lines)} changed, {item.share * 100:.1f} %"
            )
            made.setData(Qt.ItemDataRole.UserRole, item)
            made.setToolTip("\n".join(item.lines))
            self.changed.addItem(made)
        words = f"{len(changes.added)} new, {len(changes.removed)} gone, {len(changes.altered)} altered"
        if not changes:
            words = "nothing changed"
        counts = (
            (len(changes.added), "new"),
            (len(changes.removed), "gone"),
            (len(changes.altered), "altered"),
        )
        self._change_group.show_figure(
            ", ".join(f"{count} {word}" for count, word in counts if count) or "nothing"
        )
        if not self.changes:
            self.changed.addItem(QListWidgetItem("No camera sees a difference."))
        self._change_group.show()
        unchanged = len(self._bridge.project.cameras) - len(self.changes)
        self._bridge.notices.done(
            f"The model was read again: {words}. {len(self.changes)} cameras see a difference, {unchanged} do not."
        )

    def _show_change(self, item: QListWidgetItem | None) -> None:
        change = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        if not isinstance(change, ViewChange):
            return
        camera = self._bridge.project.camera(change.camera_id)
        self.comparison.show_change(
            camera.name if camera else "",
            change.lines,
            self._before.get(change.camera_id),
            self._thumb(change.camera_id),
        )
        self._middle.setCurrentIndex(1)


def _list(name: str, height: int, chosen: Callable[[QListWidgetItem], object]) -> QListWidget:
    made = QListWidget()
    made.setAccessibleName(name)
    made.setFixedHeight(height)
    made.setWordWrap(True)
    made.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    made.itemActivated.connect(chosen)
    made.itemClicked.connect(chosen)
    return made
