"""The line over the desk in which notices are shown, until it is closed."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QFrame, QHBoxLayout

from altana.app.theme.widgets import button, label
from altana.app.workspace.notices import Notice, Notices, Weight


class NoticeBar(QFrame):
    """Shows the newest notice.  own_model : opens a model of one's own, for the line that says that this is the demo."""

    def __init__(self, notices: Notices, own_model: Callable[[], object]) -> None:
        super().__init__()
        self.notice: Notice | None = None
        self._notices = notices
        notices.told.connect(self.show_notice)
        notices.cleared.connect(self.hide)
        self.setObjectName("banner")
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 5, 10, 5)
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
        self.show()

    def copy_details(self) -> None:
        """What is known of a fault, on the clipboard."""
        if self.notice is not None:
            QGuiApplication.clipboard().setText(self.notice.details)

    def _take_offer(self) -> None:
        self._notices.clear()
        if self.notice is not None and self.notice.offer is not None:
            self.notice.offer.run()
