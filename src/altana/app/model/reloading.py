"""Reading the model's files again: what every camera saw before, and what is different in its view now."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QListWidgetItem

from altana.app.model.before_after import BeforeAfter
from altana.app.model.lists import short_list
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import Group, button
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.checks.changes import Changes, Seen, ViewChange, compare, in_view
from altana.core.model import Model

#: Does something slow in a thread, under a name, and what it returns in the window afterwards.
Background = Callable[[str, Callable[[], Callable[[], object]]], None]


@dataclass(slots=True)
class Reload:
    """A reload that goes on: the model and views of before, and the pictures on the cards."""

    model: Model
    seen: Mapping[str, Seen] = field(default_factory=dict)
    pictures: dict[str, QImage] = field(default_factory=dict)
    opened: bool = False


class Reloading(QObject):
    """``reopen_wanted`` once the views of before are known; ``shown(comparison)`` for two pictures or the
    building."""

    reopen_wanted = Signal()
    shown = Signal(bool)

    def __init__(
        self,
        workspace: Workspace,
        tokens: Tokens,
        thumb: Callable[[str], QImage | None],
        background: Background,
    ) -> None:
        super().__init__()
        self._bridge, self._studio = workspace.bridge, workspace.studio
        self._thumb, self._background = thumb, background
        self._reload: Reload | None = None
        self.changes: tuple[ViewChange, ...] = ()
        self._before: dict[str, QImage] = {}
        self.comparison = BeforeAfter(tokens)
        self.group = Group(tr("Changed"))
        self.changed = short_list(tr("What the reload changed"), 120, self._show_change)
        self.changed.currentRowChanged.connect(lambda _: self._show_change(self.changed.currentItem()))
        self.group.add_wide(self.changed)
        self.group.add_wide(
            button(
                tr("Back to the model"),
                "small",
                tr("Show the building again"),
                lambda: self.shown.emit(False),
            )
        )
        self.group.hide()
        self._studio.seen.connect(self._seen)

    def opened(self) -> None:
        """The model is there anew: look what the cameras see now."""
        if self._reload is not None and self._studio.scene is not None:
            self._reload.opened = True
            self._studio.order_seen(self._bridge.project.cameras)

    def begin(self) -> bool:
        """Note what every camera sees before the files are read again; False when there is nothing to compare
        with."""
        scene = self._studio.scene
        if scene is None or self._reload is not None:
            return False
        cameras = self._bridge.project.cameras
        self._reload = Reload(
            scene.model, pictures={c.id: image for c in cameras if (image := self._thumb(c.id)) is not None}
        )
        self._studio.order_seen(cameras)
        return True

    def _seen(self, shares: Mapping[str, Seen]) -> None:
        reload = self._reload
        if reload is None:
            return
        if not reload.opened:
            reload.seen = shares
            self.reopen_wanted.emit()
            return
        scene = self._studio.scene
        self._reload = None
        if scene is not None:
            self._compare(reload, scene.model, shares)

    def _compare(self, reload: Reload, model: Model, after: Mapping[str, Seen]) -> None:
        """Every triangle of both models is looked at, which takes seconds for large ones."""

        def work() -> Callable[[], object]:
            changes = compare(reload.model, model)
            return lambda: self._tell_changes(reload, changes, after)

        self._background(tr("Comparing with the model before"), work)

    def abandon(self) -> None:
        """The files could not be read: what was open stays open."""
        self._reload = None

    def _tell_changes(self, reload: Reload, changes: Changes, after: Mapping[str, Seen]) -> None:
        before = reload.seen
        view_changes = [
            in_view(camera.id, changes, before.get(camera.id, {}), after.get(camera.id, {}))
            for camera in self._bridge.project.cameras
        ]
        self.changes = tuple(
            sorted((item for item in view_changes if item.lines), key=lambda item: -item.share)
        )
        self._before = reload.pictures
        self.changed.clear()
        for item in self.changes:
            self.changed.addItem(self._row(item))
        words = tr(
            "{added} new, {removed} gone, {altered} altered",
            added=len(changes.added),
            removed=len(changes.removed),
            altered=len(changes.altered),
        )
        if not changes:
            words = tr("nothing changed")
        counts = (
            (len(changes.added), tr("new")),
            (len(changes.removed), tr("gone")),
            (len(changes.altered), tr("altered")),
        )
        self.group.show_figure(
            ", ".join(f"{count} {word}" for count, word in counts if count) or tr("nothing")
        )
        if not self.changes:
            self.changed.addItem(QListWidgetItem(tr("No camera sees a difference.")))
        self.group.show()
        unchanged = len(self._bridge.project.cameras) - len(self.changes)
        self._bridge.notices.done(
            tr(
                "The model was read again: {words}. {changes} cameras see a difference, {unchanged} do not.",
                words=words,
                changes=len(self.changes),
                unchanged=unchanged,
            )
        )

    def _row(self, change: ViewChange) -> QListWidgetItem:
        camera = self._bridge.project.camera(change.camera_id)
        row = QListWidgetItem(
            tr(
                "{name}: {lines} changed, {share:.1f} %",
                name=camera.name if camera else change.camera_id,
                lines=len(change.lines),
                share=change.share * 100,
            )
        )
        row.setData(Qt.ItemDataRole.UserRole, change)
        row.setToolTip("\n".join(change.lines))
        return row

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
        self.shown.emit(True)
