"""Search over everything from the keyboard: cameras, planned shots, rooms, objects, walks, storeys and
actions."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from PySide6.QtCore import QEvent, QObject, QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from altana.app.theme.field_buttons import clearable
from altana.app.theme.words import spoken, tr

MOST_FOUND = 12


@dataclass(frozen=True, slots=True)
class Entry:
    """Something that can be found: its name, what it is, and what happens when it is chosen."""

    name: str
    kind: str
    run: Callable[[], object]
    #: Other words for it.
    also: str = ""


def plain(text: str) -> str:
    """Small letters without accents: what is typed need not have them."""
    if text.isascii():
        # Most names of objects are, and there may be tens of thousands at every key.
        return text.lower()
    return "".join(
        letter for letter in unicodedata.normalize("NFKD", text.lower()) if not unicodedata.combining(letter)
    )


def rank(text: str, words: list[str]) -> int:
    """How well a name answers: 0 not at all; the more, the better."""
    lower = plain(text)
    for word in words:
        if word not in lower:
            return 0
    whole = " ".join(words)
    if lower.startswith(whole):
        return 4
    starts = [part for part in lower.replace(",", " ").split() if part]
    if all(any(part.startswith(word) for part in starts) for word in words):
        return 3
    return 2 if whole in lower else 1


def best(entries: Iterable[Entry], text: str, most: int = MOST_FOUND) -> list[Entry]:
    """The entries that answer best, cameras and actions before mere objects of the model."""
    words = plain(text).split()
    if not words:
        return []
    order = {"camera": 0, "action": 1, tr("planned shot"): 1, "room": 2, "walk": 2, "storey": 3}
    whole = " ".join(words)

    def place(item: Entry) -> float:
        """What is called exactly so comes before all but cameras and actions."""
        usual = order.get(item.kind, 4)
        return min(usual, 1.5) if plain(item.name) == whole else usual

    answers = [(_answers(item, words), item, number) for number, item in enumerate(entries)]
    matches = [(answer, place(item), number, item) for answer, item, number in answers if answer]
    kept = sorted(matches, key=lambda item: (-item[0], item[1], item[2]))
    return [item[3] for item in kept[:most]]


def _answers(item: Entry, words: list[str]) -> float:
    """How well an entry answers, also by its other words, which count less than its name."""
    answer = float(rank(item.name, words))
    if not answer and item.also:
        answer = 1.5 if rank(f"{item.name} {item.also}", words) else 0.0
    return answer


class SearchField(QLineEdit):
    """A field with its list of answers below."""

    def __init__(self, window: QWidget, entries: Callable[[str], Iterable[Entry]]) -> None:
        super().__init__(window)
        self._entries = entries
        self._found: list[Entry] = []
        self._came_from: QWidget | None = None
        self.setPlaceholderText(tr("Find camera, room, action"))
        self.setAccessibleName(tr("Find"))
        self.setToolTip(tr("Cameras, rooms, objects, walks and actions (Ctrl+F); down and Return choose"))
        clearable(self)
        self.setFixedWidth(206)
        self.list = QListWidget(window)
        self.list.setAccessibleName(tr("Found"))
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.hide()
        self.list.itemClicked.connect(lambda item: self.choose(self.list.row(item)))
        self.textEdited.connect(self._find)
        window.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """The list closes when the window loses interest in it."""
        if event.type() in (QEvent.Type.Resize, QEvent.Type.WindowDeactivate):
            self.list.hide()
        return super().eventFilter(watched, event)

    def start(self) -> None:
        """Begin to search."""
        focus = self.window().focusWidget()
        self._came_from = None if isinstance(focus, QLineEdit) else focus
        self.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.selectAll()

    def _find(self, text: str) -> None:
        self._found = best(self._entries(text), text)
        self.list.clear()
        for item in self._found:
            self.list.addItem(QListWidgetItem(f"{item.name}   ·  {spoken(item.kind)}"))
        if text.strip() and not self._found:
            nothing = QListWidgetItem(tr("Nothing of that name"))
            nothing.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addItem(nothing)
        if not self.list.count():
            self.list.hide()
            return
        self.list.setCurrentRow(0)
        wide = max(320, self.width())
        corner = self.mapTo(self.window(), QPoint(self.width() - wide, self.height() + 3))
        self.list.setGeometry(
            corner.x(), corner.y(), wide, self.list.count() * max(self.list.sizeHintForRow(0), 18) + 6
        )
        self.list.raise_()
        self.list.show()

    def choose(self, row: int) -> None:
        """Take an answer."""
        self.list.hide()
        if 0 <= row < len(self._found):
            chosen = self._found[row]
            self._leave()
            chosen.run()

    def _leave(self) -> None:
        """Give the keys back to what had them, unless it would take them for a value."""
        self.clear()
        self.clearFocus()
        if self._came_from is not None and self._came_from.isVisible():
            self._came_from.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Down and up go through the answers, Return takes one, Escape leaves."""
        if event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up) and self.list.count():
            step = 1 if event.key() == Qt.Key.Key_Down else -1
            self.list.setCurrentRow((self.list.currentRow() + step) % self.list.count())
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.choose(self.list.currentRow())
        elif event.key() == Qt.Key.Key_Escape:
            self.list.hide()
            self._leave()
        else:
            super().keyPressEvent(event)
