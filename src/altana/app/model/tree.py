"""The tree of a model's objects by storey and category, with two kinds of marks: shown here, and in pictures.

Objects are put into the tree only when their category is unfolded, so that a large model opens as quickly as
a small one.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from PySide6.QtCore import QItemSelectionModel, QModelIndex, QSortFilterProxyModel, Qt, Signal
from PySide6.QtGui import QStandardItem, QStandardItemModel
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTreeView

from altana.app.theme.lengths import length
from altana.app.theme.plain_text import tip_text
from altana.app.theme.words import spoken, tr
from altana.core.checks.coverage import ObjectCoverage
from altana.core.hiding import Hiding
from altana.core.model import Model
from altana.core.project import LeftOut

KIND, NAME = Qt.ItemDataRole.UserRole, Qt.ItemDataRole.UserRole + 1
HERE, PICTURES, SEEN = 1, 2, 3
BY_STOREY, BY_CATEGORY = 0, 1


class ObjectTree(QTreeView):
    """``hidden_toggled(kind, name, hide)`` and ``left_out_toggled(kind, name, out)`` when a mark is
    pressed."""

    hidden_toggled = Signal(str, str, bool)
    left_out_toggled = Signal(str, str, bool)
    object_chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("Objects"))
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setUniformRowHeights(True)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.items = QStandardItemModel()
        self.filtered = QSortFilterProxyModel()
        self.filtered.setSourceModel(self.items)
        self.filtered.setRecursiveFilteringEnabled(True)
        self.filtered.setAutoAcceptChildRows(True)
        self.filtered.setFilterCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        self.setModel(self.filtered)
        self._model: Model | None = None
        self._members: dict[tuple[str, str], list[int]] = {}
        self._hiding, self._left_out = Hiding(), LeftOut()
        self._refreshing = False
        self._coverage: dict[str, ObjectCoverage] = {}
        self.items.itemChanged.connect(self._changed)
        self.expanded.connect(self._unfold)
        self.selectionModel().selectionChanged.connect(lambda *_: self._told())
        self.by = BY_STOREY

    # ------------------------------------------------------------------ building

    def show_model(self, model: Model | None) -> None:
        """Another model, or another order of the same."""
        self._model = model
        self._refreshing = True
        self.items.clear()
        self.items.setHorizontalHeaderLabels([tr("Object"), tr("Here"), tr("Pictures"), tr("Seen")])
        self._members = {}
        if model is not None:
            self._fill(model)
        header = self.header()
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for column in (HERE, PICTURES):
            header.setSectionResizeMode(column, QHeaderView.ResizeMode.Fixed)
            header.resizeSection(column, 42 if column == HERE else 56)
        header.setSectionResizeMode(SEEN, QHeaderView.ResizeMode.Fixed)
        header.resizeSection(SEEN, 60)
        self.setColumnHidden(SEEN, not self._coverage)
        self._refreshing = False
        self.show_marks(self._hiding, self._left_out)

    def _fill(self, model: Model) -> None:
        groups: dict[str, dict[str, list[int]]] = defaultdict(lambda: defaultdict(list))
        for number, item in enumerate(model.objects):
            groups[item.storey_id if self.by == BY_STOREY else item.category][
                item.category if self.by == BY_STOREY else item.storey_id
            ].append(number)
        names = {storey.id: storey.name for storey in model.storeys}
        order = [storey.id for storey in model.storeys[::-1]] if self.by == BY_STOREY else sorted(groups)
        for top in [*order, *(key for key in groups if key not in order)]:
            if top not in groups:
                continue
            inner = groups[top]
            count = sum(len(members) for members in inner.values())
            kind = "storeys" if self.by == BY_STOREY else "categories"
            called = names.get(top) or spoken(top) or tr("On no storey")
            row = _row(f"{called}  ·  {count}", kind, top)
            for below in sorted(inner, key=lambda key: names.get(key, key)):
                members = inner[below]
                words = names.get(below) or spoken(below) or tr("On no storey")
                # Within a storey a category is only part of itself: its marks act on its objects.
                part = _row(f"{words}  ·  {len(members)}", "group", f"{top}|{below}")
                self._members[top, below] = members
                part[0].appendRow(_row("…", "waiting", ""))
                row[0].appendRow(part)
            self.items.invisibleRootItem().appendRow(row)

    def _unfold(self, index: QModelIndex) -> None:
        item = self.items.itemFromIndex(self.filtered.mapToSource(index))
        if item is not None:
            self.fill_group(item)

    def fill_group(self, item: QStandardItem) -> None:
        """Put the objects of a group into the tree."""
        if (
            item.data(KIND) != "group"
            or self._model is None
            or item.rowCount() != 1
            or item.child(0).data(KIND) != "waiting"
        ):
            return
        top, _, below = str(item.data(NAME)).partition("|")
        self._refreshing = True
        item.removeRow(0)
        for number in self._members[top, below]:
            item.appendRow(_row(self._model.objects[number].name, "objects", self._model.objects[number].id))
        self._show_seen(item)
        # Only what is new is marked: marking the whole tree for each group would take a large model's time
        # squared.
        above = item.parent()
        self._mark(
            above, item.row(), self._named(above, self._hiding.hidden), self._named(above, self._left_out)
        )
        self._refreshing = False

    def filter(self, text: str) -> None:
        """Show only what has this in its name."""
        if text.strip():
            for group in self._groups():
                self.fill_group(group)
        self.filtered.setFilterFixedString(text.strip())
        if text.strip():
            self.expandAll()

    def _groups(self) -> list[QStandardItem]:
        root = self.items.invisibleRootItem()
        return [
            root.child(row).child(inner)
            for row in range(root.rowCount())
            for inner in range(root.child(row).rowCount())
        ]

    # ------------------------------------------------------------------ marks

    def members(self, item: QStandardItem) -> list[str]:
        """The ids of the objects that a row stands for."""
        model = self._model
        if model is None:
            return []
        kind, name = item.data(KIND), str(item.data(NAME))
        if kind == "objects":
            return [name]
        if kind == "group":
            top, _, below = name.partition("|")
            return [model.objects[number].id for number in self._members[top, below]]
        return [
            model.objects[number].id
            for (top, _), numbers in self._members.items()
            if top == name
            for number in numbers
        ]

    def show_marks(self, hiding: Hiding, left_out: LeftOut) -> None:
        """Follow what is hidden while working and what the project's pictures leave out."""
        self._hiding, self._left_out = hiding, left_out
        self._refreshing = True
        root = self.items.invisibleRootItem()
        for row in range(root.rowCount()):
            self._mark(root, row, False, False)
        self._refreshing = False

    def show_coverage(self, coverage: Sequence[ObjectCoverage]) -> None:
        """How large each object is seen at most, in a column of its own; hidden where nothing was looked
        at."""
        self._coverage = {item.object_id: item for item in coverage}
        self.setColumnHidden(SEEN, not self._coverage)
        self._refreshing = True
        root = self.items.invisibleRootItem()
        for row in range(root.rowCount()):
            self._seen_cell(root, row)
            self._show_seen(root.child(row))
        self._refreshing = False

    def _show_seen(self, parent: QStandardItem) -> None:
        for row in range(parent.rowCount()):
            self._seen_cell(parent, row)
            self._show_seen(parent.child(row))

    def _seen_cell(self, parent: QStandardItem, row: int) -> None:
        item, cell = parent.child(row), parent.child(row, SEEN)
        if cell is None or not self._coverage or item.data(KIND) == "waiting":
            return
        shares = [self._coverage[name] for name in self.members(item) if name in self._coverage]
        never = sum(not one.seen for one in shares)
        if item.data(KIND) == "objects" and shares:
            one = shares[0]
            text = f"{one.share * 100:.1f} %" if one.seen else tr("never")
            near = tr(
                "largest in {largest_in}; nearest {nearest_m} in {nearest_in}; in {pictures} pictures",
                largest_in=one.largest_in,
                nearest_m=length(one.nearest_m, 1),
                nearest_in=one.nearest_in,
                pictures=one.pictures,
            )
            cell.setToolTip(tip_text(near if one.seen else tr("In no picture")))
        else:
            text = tr("{never} never", never=never) if never else tr("all")
            cell.setToolTip(
                tip_text(tr("{seen} of {whole} seen", seen=len(shares) - never, whole=len(shares)))
            )
        cell.setText(text)

    def _mark(self, parent: QStandardItem, row: int, hidden: bool, out: bool) -> None:
        item = parent.child(row, 0)
        hidden, out = (
            hidden or self._named(item, self._hiding.hidden),
            out or self._named(item, self._left_out),
        )
        for column, gone in ((HERE, hidden), (PICTURES, out)):
            cell = parent.child(row, column)
            wanted = Qt.CheckState.Unchecked if gone else Qt.CheckState.Checked
            if cell.checkState() != wanted:
                cell.setCheckState(wanted)
        for below in range(item.rowCount()):
            self._mark(item, below, hidden, out)

    def _named(self, item: QStandardItem, left_out: LeftOut) -> bool:
        kind, name = item.data(KIND), item.data(NAME)
        if kind == "group":
            members = self.members(item)
            category = str(name).partition("|")[2 if self.by == BY_STOREY else 0]
            return category in left_out.categories or (
                bool(members) and set(members) <= set(left_out.objects)
            )
        return kind in ("objects", "categories", "storeys") and name in getattr(left_out, kind)

    def _changed(self, cell: QStandardItem) -> None:
        if self._refreshing or cell.column() not in (HERE, PICTURES) or self._model is None:
            return
        parent = cell.parent() or self.items.invisibleRootItem()
        item = parent.child(cell.row(), 0)
        gone = cell.checkState() != Qt.CheckState.Checked
        signal = self.hidden_toggled if cell.column() == HERE else self.left_out_toggled
        kind, name = item.data(KIND), str(item.data(NAME))
        if kind == "group":
            signal.emit("many", "\n".join(self.members(item)), gone)
        elif kind != "waiting":
            signal.emit(kind, name, gone)

    # ------------------------------------------------------------------ choosing

    def chosen_items(self) -> list[QStandardItem]:
        """The selected rows."""
        items = [
            self.items.itemFromIndex(self.filtered.mapToSource(index))
            for index in self.selectionModel().selectedRows(0)
        ]
        return [item for item in items if item is not None]

    def _told(self) -> None:
        chosen = self.chosen_items()
        if len(chosen) == 1 and chosen[0].data(KIND) == "objects":
            self.object_chosen.emit(str(chosen[0].data(NAME)))

    def choose(self, object_id: str) -> None:
        """Select an object's row and bring it to sight."""
        model = self._model
        if model is None or any(item.data(NAME) == object_id for item in self.chosen_items()):
            return
        number = next((index for index, item in enumerate(model.objects) if item.id == object_id), -1)
        for group in self._groups() if number >= 0 else []:
            if object_id in self.members(group):
                self.fill_group(group)
                row = next(row for row in range(group.rowCount()) if group.child(row).data(NAME) == object_id)
                index = self.filtered.mapFromSource(group.child(row).index())
                # Said outright: by itself the view adds to what is chosen while Ctrl or Shift is held.
                chosen_alone = (
                    QItemSelectionModel.SelectionFlag.ClearAndSelect | QItemSelectionModel.SelectionFlag.Rows
                )
                self.selectionModel().setCurrentIndex(index, chosen_alone)
                self.scrollTo(index)
                return


def _row(text: str, kind: str, name: str) -> list[QStandardItem]:
    first = QStandardItem(text)
    first.setData(kind, KIND)
    first.setData(name, NAME)
    cells = [first]
    for tip in (tr("shown while working"), tr("shown in pictures")):
        cell = QStandardItem()
        cell.setCheckable(kind != "waiting")
        cell.setCheckState(Qt.CheckState.Checked)
        cell.setToolTip(tip_text(f"{text}: {tip}"))
        cell.setData(f"{text}, {tip}", Qt.ItemDataRole.AccessibleTextRole)
        cells.append(cell)
    cells.append(QStandardItem(""))
    return cells
