"""The strip: planned shots, then one card a camera, inside and outside, with its picture and its marks.

Cards are painted only where they are in sight, and what is said on them is found out then; five hundred
cameras cost as much as five.
"""

from __future__ import annotations

from collections.abc import Hashable

from PySide6.QtCore import QItemSelection, QItemSelectionModel, QModelIndex, QPoint, Qt, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QAbstractItemView, QHBoxLayout, QLineEdit, QListView, QVBoxLayout, QWidget

from altana.app.compose.first_rooms import FirstRooms
from altana.app.compose.strip_cards import THUMB_HIGH, THUMB_WIDE, CardPainter, CardWords
from altana.app.compose.strip_rows import Heading, Rows
from altana.app.theme.field_buttons import clearable
from altana.app.theme.lengths import length
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button
from altana.app.theme.words import spoken, tr
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import place_of_sight
from altana.core.light.own import light_for
from altana.core.picture_key import PictureKey, camera_key
from altana.core.project import Camera, PlannedShot

#: Pictures asked for at one time; more would only wait.
MOST_ASKED = 2
FEW = 60


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
        self._told: dict[str, tuple[Camera, CardWords]] = {}
        self._keys: dict[str, tuple[Camera, PictureKey]] = {}
        self.rows = Rows(workspace)
        self.view = QListView()
        self.view.setModel(self.rows)
        # The view does not own what paints it.
        self._cards = CardPainter(self, tokens)
        self.view.setItemDelegate(self._cards)
        self._set_up_view()
        self._lay_out(workspace)
        self._connect(workspace)
        self.refresh()

    def _lay_out(self, workspace: Workspace) -> None:
        self.first_rooms = FirstRooms(workspace)
        self.stand_button = button(
            tr("Stand a camera"),
            "outline",
            tr(
                "Press on the plan, or on a floor in the Frame, where the eye is; drag to what it looks at (key C)"
            ),
            checkable=True,
        )
        self.stand_button.clicked.connect(self.stand)
        self.filter = QLineEdit()
        self.filter.setPlaceholderText(tr("Find a camera"))
        self.filter.setAccessibleName(tr("Find a camera"))
        self.filter.setToolTip(tr("Type part of a name or intent"))
        clearable(self.filter)
        self.filter.textChanged.connect(self._find)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 4, 4)
        column.setSpacing(6)
        for widget in (self.stand_button, self.filter, self.first_rooms):
            row = QHBoxLayout()
            row.setContentsMargins(0, 0, 6, 0)
            row.addWidget(widget)
            column.addLayout(row)
        column.addWidget(self.view, 1)
        self._count = -1
        self._soon = Soon(self, 150, self._follow)
        self._later = Soon(self, 250, self._order_pictures)

    def _connect(self, workspace: Workspace) -> None:
        bridge, studio = workspace.bridge, workspace.studio
        bridge.cameras_changed.connect(self.refresh)
        bridge.planned_changed.connect(self.refresh)
        for signal in (bridge.light_changed, bridge.left_out_changed, studio.relit):
            signal.connect(self._forget_pictures)
        workspace.state.selection_changed.connect(self._show_selection)
        studio.opened.connect(self._scene_opened)
        studio.picture.connect(self._arrived)
        workspace.book.changed.connect(self._looked_at)

    def _set_up_view(self) -> None:
        view = self.view
        view.setObjectName("strip")
        view.setAccessibleName(tr("Cameras"))
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

    def told(self, camera: Camera) -> CardWords:
        """What the card says, found out when it is first seen."""
        entry = self._told.get(camera.id)
        if entry is not None and entry[0] is camera:
            return entry[1]
        facts = self._find_out(camera)
        self._told[camera.id] = (camera, facts)
        return facts

    def forget(self) -> None:
        """What is told of cameras is told anew: in other words now."""
        self._told.clear()
        self.update()

    def _find_out(self, camera: Camera) -> CardWords:
        parts = [f"{camera.focal_mm:.4g} mm"]
        scene = self._studio.scene
        trouble = ""
        if scene is not None:
            place = place_of_sight(camera)
            room = scene.model.room_at(place)
            floor = scene.floor_m(camera)
            if floor is not None:
                parts.append(f"{length(camera.eye[2] - floor)}")
            if room is not None:
                parts.append(room.name)
        troubles = self._book.troubles(camera)
        trouble = (
            spoken(troubles[0].words) + (f" +{len(troubles) - 1}" if len(troubles) > 1 else "")
            if troubles
            else ""
        )
        if abs(camera.rise_mm) > 0.05:
            parts.insert(1, tr("rise {rise_mm:.1f}", rise_mm=camera.rise_mm))
        return CardWords(" · ".join(parts), trouble)

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
        scenery, entry = self._studio.scenery, self._keys.get(camera.id)
        if entry is None or entry[0] is not camera or entry[1].scenery != scenery:
            entry = self._keys[camera.id] = (camera, camera_key(camera, scenery))
        return entry[1]

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
                "small",
                view,
                light_for(self._bridge.project.light, camera),
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
