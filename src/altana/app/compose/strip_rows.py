"""The rows of the strip: planned shots, groups, cameras; what there is, in which order, and what dragging
does."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QAbstractListModel, QByteArray, QMimeData, QModelIndex, QPersistentModelIndex, Qt

from altana.app.theme.plain_text import tip_text
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.settings import reorder, set_many
from altana.core.project import Camera, PlannedShot, Project

MIME = "application/x-altana-cameras"
Index = QModelIndex | QPersistentModelIndex
INSIDE, OUTSIDE = tr("Inside"), tr("Outside")


@dataclass(frozen=True, slots=True)
class Heading:
    """A group's name and how many cameras it holds."""

    name: str
    count: int
    folded: bool


Row = Camera | PlannedShot | Heading


def group_of(camera: Camera) -> str:
    """The group a camera is listed under."""
    return camera.group or (INSIDE if camera.inside else OUTSIDE)


class Rows(QAbstractListModel):
    """The rows of the strip from the project; sorted by group, filtered by what is typed."""

    def __init__(self, workspace: Workspace) -> None:
        bridge = workspace.bridge
        super().__init__()
        self._bridge = bridge
        self.rows: list[Row] = []
        self.folded: set[str] = set()
        self.wanted = ""

    def refresh(self) -> None:
        """Follow the project; only a change in what there is lays the list out anew."""
        rows = self._wanted_rows()
        if [_key(row) for row in rows] == [_key(row) for row in self.rows]:
            changed = [
                number
                for number, (old, new) in enumerate(zip(self.rows, rows, strict=True))
                if old is not new and old != new
            ]
            self.rows = rows
            for number in changed:
                at = self.index(number)
                self.dataChanged.emit(at, at)
            return
        self.beginResetModel()
        self.rows = rows
        self.endResetModel()

    def _wanted_rows(self) -> list[Row]:
        project = self._bridge.project
        words = self.wanted.lower().split()
        rows: list[Row] = [
            shot
            for shot in project.planned
            if all(word in f"{shot.intent} {shot.note}".lower() for word in words)
        ]
        cameras = [
            camera
            for camera in project.cameras
            if all(word in f"{camera.name} {camera.intent}".lower() for word in words)
        ]
        groups: dict[str, list[Camera]] = {INSIDE: [], OUTSIDE: []}
        for camera in cameras:
            groups.setdefault(group_of(camera), []).append(camera)
        for name, members in groups.items():
            if members:
                folded = name in self.folded and not words
                rows.append(Heading(name, len(members), folded))
                rows += [] if folded else members
        return rows

    def rowCount(self, _parent: Index = QModelIndex()) -> int:  # noqa: B008
        """How many rows there are."""
        return len(self.rows)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """Names for people and for screen readers; the row itself for the painter."""
        row = self.rows[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return row
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            if isinstance(row, Camera):
                return tr("Camera {name}", name=row.name)
            return (
                tr("Planned: {intent}", intent=row.intent)
                if isinstance(row, PlannedShot)
                else tr("{name}, %n cameras", "", row.count, name=row.name)
            )
        if role == Qt.ItemDataRole.ToolTipRole and isinstance(row, Camera):
            return tip_text("\n".join(part for part in (row.name, row.intent, row.note) if part))
        if role == Qt.ItemDataRole.ToolTipRole and isinstance(row, PlannedShot):
            return tr("Planned, no camera yet: press to stand one for it")
        return None

    def flags(self, index: Index) -> Qt.ItemFlag:
        """Cameras can be selected and dragged; headings and planned shots only pressed."""
        if not index.isValid():
            return Qt.ItemFlag.ItemIsDropEnabled
        enabled = Qt.ItemFlag.ItemIsEnabled
        if isinstance(self.rows[index.row()], Camera):
            return enabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsDragEnabled
        return enabled

    def supportedDropActions(self) -> Qt.DropAction:
        """Cameras are moved, never copied."""
        return Qt.DropAction.MoveAction

    def mimeTypes(self) -> list[str]:
        """What can be dropped here."""
        return [MIME]

    def mimeData(self, indexes: Sequence[QModelIndex]) -> QMimeData:
        """The ids of the dragged cameras."""
        rows = [self.rows[index.row()] for index in indexes]
        data = QMimeData()
        data.setData(MIME, QByteArray("\n".join(row.id for row in rows if isinstance(row, Camera)).encode()))
        return data

    def dropMimeData(
        self, data: QMimeData, _action: Qt.DropAction, row: int, _column: int, _parent: Index
    ) -> bool:
        """Put the cameras in front of the row they were dropped on, in its group."""
        ids = bytes(data.data(MIME).data()).decode().split("\n")
        at = row if row >= 0 else len(self.rows)
        before = next((item for item in self.rows[at:] if isinstance(item, Camera)), None)
        above = self.rows[at - 1] if 0 < at <= len(self.rows) else None
        group = (
            above.name if isinstance(above, Heading) else group_of(above) if isinstance(above, Camera) else ""
        )

        def edit(project: Project) -> Project:
            moved = reorder(
                project,
                ids,
                before.id if before is not None and group_of(before) == group else _after(project, above),
            )
            if group and group not in (INSIDE, OUTSIDE):
                moved = set_many(moved, ids, group=group)
            return moved

        self._bridge.apply(tr("Reorder cameras"), edit)
        # The model moved the rows itself; the view must not remove them as well.
        return False


def _after(project: Project, above: Row | None) -> str | None:
    ids = [camera.id for camera in project.cameras]
    if not isinstance(above, Camera) or above.id not in ids:
        return None
    return next(iter(ids[ids.index(above.id) + 1 :]), None)


def _key(row: Row) -> tuple[object, ...]:
    if isinstance(row, Camera):
        return ("camera", row.id, row.width_px, row.height_px)
    return ("planned", row.id) if isinstance(row, PlannedShot) else ("heading", row.name)
