"""Notices lie over the lower edge of the desk, and move nothing that is under the pointer."""

from __future__ import annotations

import time
from collections.abc import Callable

from PySide6.QtCore import QPoint, QSize, Signal
from PySide6.QtGui import QGuiApplication, QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QStackedWidget, QWidget

from altana.app.theme.widgets import button, label
from altana.app.theme.words import spoken, tr
from altana.app.workspace.notices import Notice, Notices, Weight
from altana.app.workspace.soon import Soon

#: What is done, or is as it was, is told for so long; trouble, and what offers something, until it is closed.
SHOWN_MS = {Weight.DONE: 8000, Weight.NOTE: 20_000}
#: Nobody has read what stood for less than this, seconds; so many wait at most.
READ_S, MOST_WAITING = 1.5, 4
WIDEST_PX, EDGE_PX, LIFT_PX = 900, 16, 66
NARROW_PX, FREE_PX = 1190, 8


class Desks(QStackedWidget):
    """All desks, one in sight; ``resized`` when there is more or less room."""

    resized = Signal()

    def __init__(self) -> None:
        super().__init__()
        #: What stands at the lower edge of a desk and is pressed there: notices leave it free.
        self.feet: dict[QWidget, QWidget] = {}
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
    """Shows the newest notice; what is done vanishes after a while, a note after a longer one; trouble, and
    what offers something, stays until it is closed. What another came over before anyone could read it waits
    beneath that one.

    desk : what it lies over.  own_model : opens a model of one's own, for the line that says that this is the
    demo.
    """

    def __init__(self, desk: Desks, notices: Notices, own_model: Callable[[], object]) -> None:
        super().__init__(desk)
        self._desk = desk
        desk.resized.connect(self._follow)
        # A desk that comes into sight would lie over it.
        desk.currentChanged.connect(self._desk_changed)
        self._gone = Soon(self, SHOWN_MS[Weight.DONE], self.put_away)
        self.notice: Notice | None = None
        self._since = 0.0
        self._waiting: list[tuple[Notice, bool]] = []
        self._notices = notices
        notices.told.connect(self.show_notice)
        notices.cleared.connect(self._clear)
        self.setObjectName("banner")
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 7, 10, 7)
        row.setSpacing(10)
        self._text = label("")
        self._text.setWordWrap(True)
        row.addWidget(self._text, 1)
        self.own = button(
            tr("Open your own model…"), "", tr("Start a project from a building model (Ctrl+N)"), own_model
        )
        self.offer = button(tr("Take"), "", tr("Do what is offered"), self._take_offer)
        self.details = button(
            tr("Copy details"),
            "",
            tr("Put what is known of the fault on the clipboard, for whoever mends Altana"),
            self.copy_details,
        )
        for item in (self.own, self.offer, self.details):
            row.addWidget(item)
        row.addWidget(button(tr("Close"), "quiet", tr("Close this line"), self.put_away))
        self.hide()

    @property
    def sentence(self) -> str:
        """What the line says, or said last."""
        return self._text.text()

    def show_notice(self, notice: Notice, own: bool = False) -> None:
        """Say this now.  own : with the button for one's own model."""
        self._keep_unread(notice)
        self._since = time.monotonic()
        self.notice = notice
        self._text.setText(spoken(notice.sentence))
        self.setProperty("weight", notice.weight.value)
        self.setAccessibleDescription(tr("Trouble") if notice.weight is Weight.TROUBLE else "")
        self.own.setVisible(own)
        self.details.setVisible(bool(notice.details))
        self.offer.setVisible(notice.offer is not None)
        if notice.offer is not None:
            self.offer.setText(notice.offer.text)
            self.offer.setAccessibleName(notice.offer.text)
        self._gone.stop()
        if notice.weight in SHOWN_MS and notice.offer is None and not own:
            self._gone.start(SHOWN_MS[notice.weight])
        self.style().unpolish(self)
        self.style().polish(self)
        self.show()
        self.raise_()
        self._place()

    def _keep_unread(self, newer: Notice) -> None:
        """What stands there waits, where nobody can have read it yet; what is done can be seen anyway."""
        notice = self.notice
        unread = not self.isHidden() and time.monotonic() - self._since < READ_S
        if (
            notice is not None
            and unread
            and notice.weight is not Weight.DONE
            and notice.sentence != newer.sentence
        ):
            self._waiting = [*self._waiting, (notice, not self.own.isHidden())][-MOST_WAITING:]

    def put_away(self) -> None:
        """This was read: what waits comes back, or the line goes."""
        self.hide()
        if self._waiting:
            self.show_notice(*self._waiting.pop())
        else:
            self._notices.clear()

    def _clear(self) -> None:
        self._waiting.clear()
        self.hide()

    def _follow(self) -> None:
        """It follows the size of the desk."""
        if not self.isHidden():
            self._place()

    def _desk_changed(self) -> None:
        self.raise_()
        self._follow()

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
        self.setGeometry((desk.width() - wide) // 2, desk.height() - high - self._lift(), wide, high)

    def _lift(self) -> int:
        """How far above the lower edge of the desk, in pixels."""
        desk = self._desk
        foot = desk.feet.get(desk.currentWidget())
        if foot is not None and foot.isVisible():
            return desk.height() - foot.mapTo(desk, QPoint(0, 0)).y() + FREE_PX
        # In a narrow window two rows of buttons stand there.
        return LIFT_PX if desk.width() >= NARROW_PX else LIFT_PX + 40

    def copy_details(self) -> None:
        """What is known of a fault, on the clipboard."""
        if self.notice is not None:
            QGuiApplication.clipboard().setText(self.notice.details)

    def _take_offer(self) -> None:
        taken = self.notice
        self.put_away()
        if taken is not None and taken.offer is not None:
            taken.offer.run()
