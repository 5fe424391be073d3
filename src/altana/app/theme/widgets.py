"""Small controls used everywhere: number fields, segments, groups, rules."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QComboBox,
    QDialog,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QListView,
    QMenu,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QSlider,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from altana.app.theme.number_field import NumberField
from altana.app.theme.plain_text import tip_text
from altana.app.theme.words import tr

Parser = Callable[[str], float]


def label(text: str, kind: str = "") -> QLabel:
    """A label of a kind that the style sheet knows."""
    widget = QLabel()
    widget.setTextFormat(Qt.TextFormat.PlainText)
    widget.setText(text)
    if kind:
        widget.setObjectName(kind)
    return widget


class OneLine(QLabel):
    """A label that never makes its window wider: what does not fit ends in an ellipsis, and the whole stands
    in the tooltip."""

    def __init__(self, kind: str = "") -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setObjectName(kind)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def tell(self, text: str) -> None:
        """Another text."""
        self.setText(text)
        self.setToolTip(tip_text(text))

    def shown_text(self) -> str:
        """What of it fits."""
        return self.fontMetrics().elidedText(
            self.text(), Qt.TextElideMode.ElideRight, self.contentsRect().width()
        )

    def paintEvent(self, _: QPaintEvent) -> None:
        """The text, as far as it fits."""
        painter = QPainter(self)
        where = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        self.style().drawItemText(
            painter,
            self.contentsRect(),
            where,
            self.palette(),
            self.isEnabled(),
            self.shown_text(),
            self.foregroundRole(),
        )
        painter.end()


def rule(vertical: bool = False) -> QFrame:
    """A hairline."""
    line = QFrame()
    line.setObjectName("column" if vertical else "rule")
    return line


def button(
    text: str, kind: str, tip: str, action: Callable[[], object] | None = None, checkable: bool = False
) -> QPushButton:
    """A push button with its tooltip and accessible name."""
    widget = QPushButton(text)
    if kind:
        widget.setObjectName(kind)
    widget.setToolTip(tip_text(tip))
    widget.setAccessibleName(text)
    widget.setCheckable(checkable)
    widget.setAutoDefault(False)
    if action is not None:
        widget.clicked.connect(lambda *_: action())
    return widget


def check_box(text: str, tip: str) -> QCheckBox:
    """A check box with its tooltip and accessible name."""
    widget = QCheckBox(text)
    widget.setToolTip(tip_text(tip))
    widget.setAccessibleName(text)
    return widget


def relabel(item: QPushButton, text: str) -> None:
    """Change a button's text, if it is another one: a change lays out the whole panel."""
    if item.text() != text:
        item.setText(text)


def menu_button(text: str, tip: str, fill: Callable[[QMenu], object], kind: str = "menu") -> QToolButton:
    """A button that opens a menu, filled anew each time it opens."""
    widget = QToolButton()
    widget.setObjectName(kind)
    widget.setText(text)
    widget.setToolTip(tip_text(tip))
    widget.setAccessibleName(tip.split(":")[0].split("(")[0].strip())
    widget.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
    widget.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    menu = QMenu(widget)

    def refill() -> None:
        menu.clear()
        fill(menu)

    menu.aboutToShow.connect(refill)
    widget.setMenu(menu)
    return widget


class ChoiceBox(QComboBox):
    """A drop-down whose list shows every entry; the wheel scrolls what it lies in, unless the box has the
    focus."""

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMaxVisibleItems(40)
        # A list of its own is as wide as its entries, not as the box.
        self.setView(QListView())

    def setAccessibleName(self, name: str) -> None:
        """The list that opens is called as the box is."""
        super().setAccessibleName(name)
        self.view().setAccessibleName(name)

    def showPopup(self) -> None:
        """The list is as wide as its longest entry."""
        metrics = self.fontMetrics()
        widest = max(
            (metrics.horizontalAdvance(self.itemText(index)) for index in range(self.count())), default=0
        )
        self.view().setMinimumWidth(max(self.width(), widest + 40))
        super().showPopup()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """A value is never changed by accident."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


class Slider(QSlider):
    """A level slider; the wheel scrolls what it lies in, unless the slider has the focus."""

    def __init__(self) -> None:
        super().__init__(Qt.Orientation.Horizontal)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """A value is never changed by accident."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


class Segments(QFrame):
    """A few choices side by side, one of them taken."""

    chosen = Signal(int)

    def __init__(self, choices: Sequence[tuple[str, str]]) -> None:
        super().__init__()
        self.setObjectName("segments")
        self._group = QButtonGroup(self)
        self._group.setExclusive(True)
        row = QHBoxLayout(self)
        row.setContentsMargins(1, 1, 1, 1)
        row.setSpacing(0)
        for index, (text, tip) in enumerate(choices):
            segment = button(text, "segment", tip, checkable=True)
            segment.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
            self._group.addButton(segment, index)
            row.addWidget(segment)
        self._group.idClicked.connect(self.chosen)

    def take(self, index: int) -> None:
        """Show a choice; -1 shows none."""
        self._group.setExclusive(False)
        for number, item in enumerate(self._group.buttons()):
            item.setChecked(number == index)
        self._group.setExclusive(True)

    def buttons(self) -> list[QPushButton]:
        """The buttons, in order."""
        return [item for item in self._group.buttons() if isinstance(item, QPushButton)]


def side_by_side(*widgets: QWidget) -> QWidget:
    """Widgets beside each other in equal shares."""
    holder = QWidget()
    line = QHBoxLayout(holder)
    line.setContentsMargins(0, 0, 0, 0)
    line.setSpacing(4)
    for widget in widgets:
        line.addWidget(widget, 1)
    return holder


class Group(QWidget):
    """A settings group: its heading folds it and keeps showing the key figures."""

    unfolded = Signal()

    def __init__(self, title: str) -> None:
        super().__init__()
        self._title = title
        self.heading = QPushButton(title)
        self.heading.setObjectName("quiet")
        self.heading.setStyleSheet("text-align: left; font-weight: 700; padding: 1px 6px 1px 0;")
        self.heading.setToolTip(tip_text(tr("{title}: fold or unfold", title=title)))
        self.heading.setAccessibleName(tr("{title}, fold or unfold", title=title))
        self._figure = label("", "quiet")
        # A long figure is cut short; it never makes the panel wider.
        self._figure.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self._figure.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        head = QHBoxLayout()
        head.setContentsMargins(0, 0, 0, 0)
        head.addWidget(self.heading)
        head.addWidget(self._figure, 1)
        self.body = QWidget()
        self.grid = QGridLayout(self.body)
        self.grid.setContentsMargins(0, 0, 0, 2)
        self.grid.setHorizontalSpacing(6)
        self.grid.setVerticalSpacing(4)
        self.grid.setColumnStretch(0, 1)
        self.grid.setColumnStretch(1, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addLayout(head)
        column.addWidget(self.body)
        self.heading.clicked.connect(self.fold)

    def fold(self) -> None:
        """Fold or unfold."""
        self.body.setVisible(self.body.isHidden())
        if not self.body.isHidden():
            self.unfolded.emit()

    @property
    def figure(self) -> str:
        """The key figure beside the heading."""
        return self._figure.text()

    def show_figure(self, text: str) -> None:
        """The key figures beside the heading."""
        if self._figure.text() != text:
            self._figure.setText(text)
            self._figure.setToolTip(tip_text(text))

    def add_field(self, text: str, field: QWidget) -> QLabel:
        """A named field on its own row; its name is returned."""
        named = label(text, "quiet")
        named.setBuddy(field)
        row = self.grid.rowCount()
        if isinstance(field, Segments):
            # Choices beside each other are wide: they do not add up with the longest name of the other rows.
            line = QHBoxLayout()
            line.setSpacing(6)
            line.addWidget(named, 1)
            line.addWidget(field, 1)
            self.grid.addLayout(line, row, 0, 1, 2)
        else:
            self.grid.addWidget(named, row, 0)
            self.grid.addWidget(field, row, 1)
        return named

    def add_wide(self, *widgets: QWidget) -> None:
        """One widget over the whole row, two beside each other, or several in equal shares."""
        row = self.grid.rowCount()
        if len(widgets) == 2:
            for column, widget in enumerate(widgets):
                self.grid.addWidget(widget, row, column)
            return
        self.grid.addWidget(widgets[0] if len(widgets) == 1 else side_by_side(*widgets), row, 0, 1, 2)

    def add_pair(self, text: str, *widgets: QWidget) -> QLabel:
        """A name, which is returned, and two or three narrow widgets beside each other."""
        row = self.grid.rowCount()
        named = label(text, "quiet")
        named.setBuddy(widgets[0])
        line = QHBoxLayout()
        line.setSpacing(4)
        line.addWidget(named, 1)
        for widget in widgets:
            if isinstance(widget, NumberField):
                widget.setFixedWidth(74)
            line.addWidget(widget)
        self.grid.addLayout(line, row, 0, 1, 2)
        return named

    @property
    def folded(self) -> bool:
        """Whether only the heading shows."""
        return self.body.isHidden()


def stacked(groups: Sequence[Group]) -> QScrollArea:
    """Groups below each other with hairlines between, in a column that scrolls."""
    inner = QWidget()
    inner.setObjectName("chrome")
    rows = QVBoxLayout(inner)
    rows.setContentsMargins(0, 0, 6, 0)
    rows.setSpacing(6)
    for index, group in enumerate(groups):
        layout = group.layout()
        if index and isinstance(layout, QVBoxLayout):
            # Its rule belongs to a group, so that it goes where the group is hidden.
            layout.insertWidget(0, rule())
        rows.addWidget(group)
    rows.addStretch(1)
    return scrolling(inner)


def scrolling(inner: QWidget) -> QScrollArea:
    """A column that scrolls up and down.  It takes no focus of its own: what has it is scrolled into
    sight."""
    scroll = QScrollArea()
    scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    scroll.setWidgetResizable(True)
    scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    scroll.setWidget(inner)
    return scroll


def progress_bar(name: str) -> QProgressBar:
    """A thin bar without figures; they stand beside it.  name : for those who do not see it."""
    bar = QProgressBar()
    bar.setTextVisible(False)
    bar.setRange(0, 1000)
    bar.setAccessibleName(name)
    return bar


def open_page(page: QDialog) -> None:
    """Open a page over its window.  Closed ones of its kind go: nobody sees them again, and each would be
    kept as long as the window."""
    over = page.parentWidget()
    assert over is not None
    for old in over.findChildren(type(page), options=Qt.FindChildOption.FindDirectChildrenOnly):
        if old is not page and old.isHidden():
            old.deleteLater()
    page.open()
