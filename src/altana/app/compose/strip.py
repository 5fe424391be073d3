"""The strip: planned shots, then one card a camera, inside and outside, with its picture and its marks.

Cards are painted only where they are in sight, and what is said on them is found out then; five hundred cameras cost
as much as five.
"""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from dataclasses import dataclass

from PySide6.QtCore import (
    QAbstractListModel,
    QByteArray,
    QItemSelection,
    QItemSelectionModel,
    QMimeData,
    QModelIndex,
    QPersistentModelIndex,
    QPoint,
    QRect,
    QRectF,
    QSize,
    Qt,
    QTimer,
    Signal,
)
from PySide6.QtGui import QColor, QFont, QImage, QPainter, QPainterPath, QPen
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QLineEdit,
    QListView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import place_of_sight
from altana.core.edits.keeping import reorder, set_many
from altana.core.picture_key import PictureKey, camera_key
from altana.core.project import Camera, PlannedShot, Project

THUMB_WIDE, THUMB_HIGH = 158, 92
MIME = "application/x-altana-cameras"
#: Pictures asked for at one time; more would only wait.
MOST_ASKED = 2
FEW = 60
Index = QModelIndex | QPersistentModelIndex
INSIDE, OUTSIDE = "Inside", "Outside"


@dataclass(frozen=True, slots=True)
class Heading:
    """A group's name and how many cameras it holds."""

    name: str
    count: int
    folded: bool


Row = Camera | PlannedShot | Heading


@dataclass(frozen=True, slots=True)
class Told:
    """What a card says below its name, and what is wrong in a few words."""

    line: str
    trouble: str


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
                return f"Camera {row.name}"
            return (
                f"Planned: {row.intent}"
                if isinstance(row, PlannedShot)
                else f"{row.name}, {row.count} cameras"
            )
        if role == Qt.ItemDataRole.ToolTipRole and isinstance(row, Camera):
            return "\n".join(part for part in (row.name, row.intent, row.note) if part)
        if role == Qt.ItemDataRole.ToolTipRole and isinstance(row, PlannedShot):
            return "Planned, no camera yet: press to stand one for it"
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
        found = [self.rows[index.row()] for index in indexes]
        data = QMimeData()
        data.setData(MIME, QByteArray("\n".join(row.id for row in found if isinstance(row, Camera)).encode()))
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

        self._bridge.apply("Reorder cameras", edit)
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


class CardPainter(QStyledItemDelegate):
    """Paints rows."""

    def __init__(self, strip: Strip, tokens: Tokens) -> None:
        super().__init__(strip)
        self._strip, self._tokens = strip, tokens

    def sizeHint(self, _option: QStyleOptionViewItem, index: Index) -> QSize:
        """The height follows the picture's proportion."""
        row = index.data(Qt.ItemDataRole.UserRole)
        if isinstance(row, Camera):
            return QSize(THUMB_WIDE + 18, thumb_size(row).height() + 57)
        return QSize(THUMB_WIDE + 18, 24 if isinstance(row, Heading) else 50)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        """One row."""
        row = index.data(Qt.ItemDataRole.UserRole)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        area: QRect = option.rect
        state: QStyle.StateFlag = option.state
        focused = bool(state & QStyle.StateFlag.State_HasFocus)
        if isinstance(row, Camera):
            self._card(painter, area, row, focused)
        elif isinstance(row, PlannedShot):
            self._planned(painter, area, row, focused)
        else:
            self._heading(painter, area, row, focused)
        painter.restore()

    def _heading(self, painter: QPainter, area: QRect, row: Heading, focused: bool) -> None:
        painter.setFont(text_font(9))
        painter.setPen(QColor(self._tokens.pencil))
        sign = "▸" if row.folded else "▾"
        inner = QRectF(area).adjusted(3, 3, -8, 0)
        painter.drawText(
            inner,
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft,
            f"{row.name.upper()}  {sign if row.folded or focused else ''}",
        )
        painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, str(row.count))

    def _planned(self, painter: QPainter, area: QRect, row: PlannedShot, focused: bool) -> None:
        box = QRectF(area).adjusted(1.5, 2.5, -6.5, -3.5)
        painter.setPen(QPen(QColor(self._tokens.pencil), 1.2, Qt.PenStyle.DashLine))
        painter.drawRoundedRect(box, 7, 7)
        self._ring(painter, box, focused)
        painter.setFont(text_font(8.5))
        painter.drawText(
            QRectF(box.left() + 9, box.top() + 4, box.width() - 18, 15),
            Qt.AlignmentFlag.AlignVCenter,
            "planned: no camera yet",
        )
        painter.setPen(QColor(self._tokens.ink))
        painter.setFont(text_font(9.5))
        text = painter.fontMetrics().elidedText(
            row.intent, Qt.TextElideMode.ElideRight, int(box.width() - 18)
        )
        painter.drawText(
            QRectF(box.left() + 9, box.top() + 20, box.width() - 18, 18), Qt.AlignmentFlag.AlignVCenter, text
        )

    def _ring(self, painter: QPainter, box: QRectF, focused: bool) -> None:
        if focused:
            pen = painter.pen()
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(3, 3, -3, -3), 5, 5)
            painter.setPen(pen)

    def _card(self, painter: QPainter, area: QRect, camera: Camera, focused: bool) -> None:
        box = QRectF(area).adjusted(1.5, 2.5, -6.5, -3.5)
        state = self._strip.state
        if camera.id == state.active_id:
            pen = QPen(QColor(self._tokens.verdigris), 2.2)
        elif camera.id in state.selected:
            pen = QPen(QColor(self._tokens.verdigris), 1.6, Qt.PenStyle.DashLine)
        else:
            pen = QPen(QColor(self._tokens.rule), 1.0)
        painter.setPen(pen)
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawRoundedRect(box, 7, 7)
        self._ring(painter, box, focused)
        size = thumb_size(camera)
        place = QRectF(box.left() + 7, box.top() + 6, size.width(), size.height())
        clip = QPainterPath()
        clip.addRoundedRect(place, 3, 3)
        painter.save()
        painter.setClipPath(clip)
        image = self._strip.thumb(camera.id)
        painter.fillRect(place, QColor(self._tokens.rule))
        if (
            image is not None
            and abs(image.width() * place.height() - image.height() * place.width())
            < 0.05 * image.width() * place.height()
        ):
            painter.drawImage(place, image)
        painter.restore()
        self._marks(painter, box, place, camera)
        self._text(painter, box, place.bottom(), camera)

    def _text(self, painter: QPainter, box: QRectF, top: float, camera: Camera) -> None:
        wide = int(box.width() - 16)
        painter.setFont(text_font(9.5, QFont.Weight.DemiBold))
        painter.setPen(QColor(self._tokens.ink))
        name = painter.fontMetrics().elidedText(camera.name, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(box.left() + 8, top + 3, wide, 17), Qt.AlignmentFlag.AlignVCenter, name)
        told = self._strip.told(camera)
        painter.setFont(text_font(8.5))
        left = box.left() + 8
        if told.trouble:
            painter.setPen(QColor(self._tokens.brick))
            painter.setFont(text_font(8.5, QFont.Weight.Bold))
            shown = painter.fontMetrics().elidedText(f"! {told.trouble}", Qt.TextElideMode.ElideRight, wide)
            painter.drawText(QRectF(left, top + 20, wide, 15), Qt.AlignmentFlag.AlignVCenter, shown)
            return
        painter.setPen(QColor(self._tokens.pencil))
        line = painter.fontMetrics().elidedText(told.line, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(left, top + 20, wide, 15), Qt.AlignmentFlag.AlignVCenter, line)

    def _marks(self, painter: QPainter, box: QRectF, place: QRectF, camera: Camera) -> None:
        """Marks in the upper right corner: locked, in the shot list, done, not on the plan, variants."""
        marks = [
            (camera.locked, "padlock"),
            (camera.in_shot_list, "✓"),
            (camera.done, "done"),
            (camera.hidden, "off plan"),
            (bool(camera.variants), f"{len(camera.variants)} tries"),
        ]
        right = box.right() - 6
        y = place.top() + 3
        for there, mark in marks:
            if not there:
                continue
            painter.setFont(text_font(8, QFont.Weight.DemiBold))
            wide = 16.0 if mark in ("padlock", "✓") else painter.fontMetrics().horizontalAdvance(mark) + 8.0
            patch = QRectF(right - wide, y, wide, 16)
            painter.setPen(QPen(QColor(self._tokens.rule), 1))
            painter.setBrush(QColor(self._tokens.leaf))
            painter.drawRoundedRect(patch, 4, 4)
            painter.setPen(QColor(self._tokens.ink))
            if mark == "padlock":
                self._padlock(painter, patch.center().x(), patch.center().y())
            else:
                painter.drawText(patch, Qt.AlignmentFlag.AlignCenter, mark)
            right -= wide + 3

    def _padlock(self, painter: QPainter, x: float, y: float) -> None:
        painter.setPen(QPen(QColor(self._tokens.ink), 1.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawArc(QRectF(x - 2.5, y - 6, 5, 8), 0, 180 * 16)
        painter.setBrush(QColor(self._tokens.ink))
        painter.drawRect(QRectF(x - 4, y - 1, 8, 5))


def thumb_size(camera: Camera) -> QSize:
    """The size of a camera's picture on its card."""
    scale = min(THUMB_WIDE / camera.width_px, THUMB_HIGH / camera.height_px)
    return QSize(max(8, round(camera.width_px * scale)), max(8, round(camera.height_px * scale)))


class Strip(QWidget):
    """All planned shots and cameras; pictures are drawn in the background, those in sight first."""

    stand = Signal(bool)
    stand_for = Signal(str)
    menu = Signal(str, object)
    planned_menu = Signal(str, object)

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        bridge, state, studio, book = workspace.bridge, workspace.state, workspace.studio, workspace.book
        super().__init__()
        self._bridge, self.state, self._studio, self._book = bridge, state, studio, book
        self.setObjectName("chrome")
        self.setFixedWidth(200)
        self._images: dict[str, QImage] = {}
        self._drawn: dict[str, Hashable] = {}
        self._asked: dict[str, tuple[int, Hashable]] = {}
        self._told: dict[str, tuple[Camera, Told]] = {}
        self._keys: dict[str, tuple[Camera, PictureKey]] = {}
        self.rows = Rows(workspace)
        self.view = QListView()
        self.view.setModel(self.rows)
        self.view.setItemDelegate(CardPainter(self, tokens))
        self._set_up_view()
        self.stand_button = button(
            "Stand a camera",
            "outline",
            "Press on the plan, or on a floor in the Frame, where the eye is; drag to what it looks at (key C)",
            checkable=True,
        )
        self.stand_button.clicked.connect(self.stand)
        self.filter = QLineEdit()
        self.filter.setPlaceholderText("Find a camera")
        self.filter.setAccessibleName("Find a camera")
        self.filter.setToolTip("Type part of a name or intent")
        self.filter.setClearButtonEnabled(True)
        self.filter.textChanged.connect(self._find)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 4, 4)
        column.setSpacing(6)
        for widget in (self.stand_button, self.filter):
            row = QHBoxLayout()
            row.setContentsMargins(0, 0, 6, 0)
            row.addWidget(widget)
            column.addLayout(row)
        column.addWidget(self.view, 1)
        self._count = -1
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(150)
        self._soon.timeout.connect(self._follow)
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(250)
        self._later.timeout.connect(self._order_pictures)
        bridge.cameras_changed.connect(self.refresh)
        bridge.planned_changed.connect(self.refresh)
        for signal in (bridge.light_changed, bridge.left_out_changed, studio.relit):
            signal.connect(self._forget_pictures)
        state.selection_changed.connect(self._show_selection)
        studio.opened.connect(self._scene_opened)
        studio.picture.connect(self._arrived)
        book.changed.connect(self._looked_at)
        self.refresh()

    def _set_up_view(self) -> None:
        view = self.view
        view.setObjectName("strip")
        view.setAccessibleName("Cameras")
        view.setFrameShape(QListView.Shape.NoFrame)
        view.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        view.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        view.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        view.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        view.setDropIndicatorShown(True)
        view.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        view.customContextMenuRequested.connect(self._menu_at)
        view.clicked.connect(self._pressed)
        view.activated.connect(self._pressed)
        view.selectionModel().selectionChanged.connect(self._selected_here)
        view.verticalScrollBar().valueChanged.connect(lambda _: self._later.start())

    # ------------------------------------------------------------------ what is shown

    def ids(self) -> list[str]:
        """The cameras in the order of the strip."""
        return [row.id for row in self.rows.rows if isinstance(row, Camera)]

    def thumb(self, camera_id: str) -> QImage | None:
        """The picture of a camera as last drawn."""
        return self._images.get(camera_id)

    def told(self, camera: Camera) -> Told:
        """What the card says, found out when it is first seen."""
        held = self._told.get(camera.id)
        if held is not None and held[0] is camera:
            return held[1]
        made = self._find_out(camera)
        self._told[camera.id] = (camera, made)
        return made

    def _find_out(self, camera: Camera) -> Told:
        parts = [f"{camera.focal_mm:.4g} mm"]
        scene = self._studio.scene
        trouble = ""
        if scene is not None:
            place = place_of_sight(camera)
            room = scene.model.room_at(place)
            here = scene.footing(place)
            if here.floor_m is not None:
                parts.append(f"{camera.eye[2] - here.floor_m:.2f} m")
            if room is not None:
                parts.append(room.name)
        found = self._book.troubles(camera)
        trouble = found[0].words + (f" +{len(found) - 1}" if len(found) > 1 else "") if found else ""
        if abs(camera.rise_mm) > 0.05:
            parts.insert(1, f"rise {camera.rise_mm:.1f}")
        return Told(" · ".join(parts), trouble)

    def _looked_at(self, camera_id: str) -> None:
        self._told.pop(camera_id, None)
        self.view.viewport().update()

    def refresh(self) -> None:
        """Cards follow the project; while something is dragged, only a few times a second."""
        if self._bridge.in_gesture and len(self._bridge.project.cameras) == self._count:
            if not self._soon.isActive():
                self._soon.start()
            return
        self._soon.stop()
        self._follow()

    def _follow(self) -> None:
        self._count = len(self._bridge.project.cameras)
        self.rows.refresh()
        self._show_selection()
        if not self._bridge.in_gesture:
            self._later.start()

    def _find(self, text: str) -> None:
        self.rows.wanted = text
        self.refresh()

    def _scene_opened(self) -> None:
        self._told.clear()
        self._forget_pictures()
        self.view.viewport().update()

    def _forget_pictures(self) -> None:
        self._drawn.clear()
        self._asked.clear()
        self._later.start()

    # ------------------------------------------------------------------ selection

    def _show_selection(self) -> None:
        model = self.view.selectionModel()
        wanted = QItemSelection()
        active = QModelIndex()
        for number, row in enumerate(self.rows.rows):
            if isinstance(row, Camera) and row.id in self.state.selected:
                index = self.rows.index(number)
                wanted.select(index, index)
                if row.id == self.state.active_id:
                    active = index
        model.blockSignals(True)
        model.select(wanted, QItemSelectionModel.SelectionFlag.ClearAndSelect)
        if active.isValid() and model.currentIndex() != active:
            model.setCurrentIndex(active, QItemSelectionModel.SelectionFlag.NoUpdate)
            self.view.scrollTo(active)
        model.blockSignals(False)
        self.view.viewport().update()

    def _selected_here(self) -> None:
        model = self.view.selectionModel()
        rows = [self.rows.rows[index.row()] for index in model.selectedIndexes()]
        chosen = [row.id for row in rows if isinstance(row, Camera)]
        current = model.currentIndex()
        row = self.rows.rows[current.row()] if current.isValid() else None
        active = row.id if isinstance(row, Camera) and row.id in chosen else chosen[-1] if chosen else ""
        if chosen:
            kept = [item for item in self.state.selected if item in chosen]
            ordered = (*kept, *(item for item in chosen if item not in kept))
            self.state.select_many(ordered, active)

    def _pressed(self, index: QModelIndex) -> None:
        row = self.rows.rows[index.row()]
        if isinstance(row, Heading):
            self.rows.folded ^= {row.name}
            self.refresh()
        elif isinstance(row, PlannedShot):
            self.stand_for.emit(row.id)

    def _menu_at(self, at: QPoint) -> None:
        index = self.view.indexAt(at)
        if not index.isValid():
            return
        row = self.rows.rows[index.row()]
        if isinstance(row, Camera):
            self.menu.emit(row.id, self.view.viewport().mapToGlobal(at))
        elif isinstance(row, PlannedShot):
            self.planned_menu.emit(row.id, self.view.viewport().mapToGlobal(at))

    # ------------------------------------------------------------------ pictures

    def _due(self) -> list[Camera]:
        """Cameras whose picture is not what it was, those in sight first."""
        area = self.view.viewport().rect()
        top, bottom = (self.view.indexAt(QPoint(12, y)).row() for y in (area.top() + 6, area.bottom() - 6))
        bottom = bottom if bottom >= 0 else len(self.rows.rows) - 1
        rows = list(enumerate(self.rows.rows))
        inside = rows[max(top, 0) : bottom + 1]
        due: list[Camera] = []
        for _, row in [*inside, *rows]:
            if (
                isinstance(row, Camera)
                and self._drawn.get(row.id) != self._key(row)
                and not self._waiting(row)
            ):
                due.append(row)
                if len(due) >= MOST_ASKED:
                    break
        return due

    def _key(self, camera: Camera) -> PictureKey:
        scenery, held = self._studio.scenery, self._keys.get(camera.id)
        if held is None or held[0] is not camera or held[1].scenery != scenery:
            held = self._keys[camera.id] = (camera, camera_key(camera, scenery))
        return held[1]

    def _waiting(self, camera: Camera) -> bool:
        asked = self._asked.get(camera.id)
        return asked is not None and asked[1] == self._key(camera)

    def _order_pictures(self) -> None:
        if self._studio.scene is None or self._bridge.in_gesture:
            return
        room = MOST_ASKED - len(self._asked)
        # Few cameras get pictures sharp enough to be compared before and after a reload.
        sharpness = 2.4 if len(self._bridge.project.cameras) <= FEW else 1.5
        for camera in self._due()[: max(room, 0)]:
            scale = (
                min(THUMB_WIDE / camera.width_px, THUMB_HIGH / camera.height_px)
                * self.devicePixelRatioF()
                * sharpness
            )
            view = camera.view(
                max(16, round(camera.width_px * scale)), max(16, round(camera.height_px * scale))
            )
            staging = self._studio.staging(self._bridge.project, camera)
            revision = self._studio.order_picture(
                f"thumb:{camera.id}",
                "full",
                view,
                self._bridge.project.light,
                camera.ev,
                camera.inside,
                4,
                staging,
            )
            self._asked[camera.id] = (revision, self._key(camera))

    def _arrived(self, channel: str, revision: int, image: QImage, _: str) -> None:
        if not channel.startswith("thumb:"):
            return
        camera_id = channel[6:]
        asked = self._asked.get(camera_id)
        self._images[camera_id] = image
        if asked is not None and asked[0] == revision:
            self._drawn[camera_id] = self._asked.pop(camera_id)[1]
        self.view.viewport().update()
        self._later.start(15)
