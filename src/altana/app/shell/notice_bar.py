"""Notices lie over the lower edge of the desk, and move nothing that is under the pointer."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSize, Signal
from PySide6.QtGui import QGuiApplication, QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QStackedWidget

from altana.app.theme.widgets import button, label
from altana.app.workspace.notices import Notice, Notices, Weight
from altana.app.workspace.soon import Soon

#: What is done is told for so long.
SHOWN_MS = 8000
WIDEST_PX, EDGE_PX, LIFT_PX = 900, 16, 66
NARROW_PX = 1190


class Desks(QStackedWidget):
    """All desks, one in sight; ``resized`` when there is more or less room."""

    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.currentChanged.connect(lambda _: self.updateGeometry())

    def minimumSizeHint(self) -> QSize:
        """What the desk in sight needs: one that was never shown yet does not know its own size."""
        current = self.currentWidget()
        return current.minimumSizeHint() if current is not None else super().minimumSizeHint()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Tell who lies over it."""
        super().resizeEvent(event)
        self.resized.emit()


class NoticeBar(QFrame):
    """Shows the newest notice; what is done vanishes after a while, notes and trouble stay until they are closed.

    desk : what it lies over.  own_model : opens a model of one's own, for the line that says that this is the demo.
    """

    def __init__(self, desk: Desks, notices: Notices, own_model: Callable[[], object]) -> None:
        super().__init__(desk)
        self._desk = desk
        desk.resized.connect(self._follow)
        # A desk that comes into sight would lie over it.
        desk.currentChanged.connect(lambda _: self.raise_())
        self._gone = Soon(self, SHOWN_MS, self.hide)
        self.notice: Notice | None = None
        self._notices = notices
        notices.told.connect(self.show_notice)
        notices.cleared.connect(self.hide)
        self.setObjectName("banner")
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 7, 10, 7)
        row.setSpacing(10)
        self._text = label("")
        self._text.setWordWrap(True)
        row.addWidget(self._text, 1)
        self.own = button(
            "Open your own model…", "", "Start a project from a building model (Ctrl+N)", own_model
        )
        self.offer = button("Take", "", "Do what is offered", self._take_offer)
        self.details = button(
            "Copy details",
            "",
            "Put what is known of the fault on the clipboard, for whoever mends Altana",
            self.copy_details,
        )
        for item in (self.own, self.offer, self.details):
            row.addWidget(item)
        row.addWidget(button("Close", "quiet", "Close this line", notices.clear))
        self.hide()

    @property
    def sentence(self) -> str:
        """What the line says, or said last."""
        return self._text.text()

    def show_notice(self, notice: Notice, own: bool = False) -> None:
        """Say this now.  own : with the button for one's own model."""
        self.notice = notice
        self._text.setText(notice.sentence)
        self.setProperty("weight", notice.weight.value)
        self.setAccessibleDescription("Trouble" if notice.weight is Weight.TROUBLE else "")
        self.own.setVisible(own)
        self.details.setVisible(bool(notice.details))
        self.offer.setVisible(notice.offer is not None)
        if notice.offer is not None:
            self.offer.setText(notice.offer.text)
            self.offer.setAccessibleName(notice.offer.text)
        self._gone.stop()
        if notice.weight is Weight.DONE and notice.offer is None:
            self._gone.start()
        self.style().unpolish(self)
        self.style().polish(self)
        self.show()
        self.raise_()
        self._place()

    def _follow(self) -> None:
        """It follows the size of the desk."""
        if not self.isHidden():
            self._place()

    def _place(self) -> None:
        """In the middle, above what stands at the lower edge of a desk."""
        desk, layout = self._desk, self.layout()
        assert layout is not None
        widest = min(WIDEST_PX, desk.width() - 2 * EDGE_PX)
        free = sum(
            item.sizeHint().width() + 10
            for item in (self.own, self.offer, self.details)
            if not item.isHidden()
        )
        text = self._text.fontMetrics().horizontalAdvance(self._text.text()) + 4
        wide = min(widest, text + free + 120)
        high = max(38, layout.heightForWidth(wide))
        # In a narrow window two rows of buttons stand there.
        lift = LIFT_PX if desk.width() >= NARROW_PX else LIFT_PX + 40
        self.setGeometry((desk.width() - wide) // 2, desk.height() - high - lift, wide, high)

    def copy_details(self) -> None:
        """What is known of a fault, on the clipboard."""
        if self.notice is not None:
            QGuiApplication.clipboard().setText(self.notice.details)

    def _take_offer(self) -> None:
        self._notices.clear()
        if self.notice is not None and self.notice.offer is not None:
            self.notice.offer.run()
