"""The window in German, in a process of its own, for a language is chosen before the window is loaded: all
texts of its four desks, as JSON."""

from __future__ import annotations

import json
import sys
from pathlib import Path


def main(project: Path, pictures: Path) -> None:
    """Print every text that is shown, and what of a panel is wider than its place."""
    from altana.app.theme.words import language

    language.choose("de")
    from PySide6.QtCore import QEventLoop, QSettings, QTimer
    from PySide6.QtWidgets import (
        QAbstractItemView,
        QApplication,
        QComboBox,
        QListView,
        QMenu,
        QPushButton,
        QScrollArea,
        QToolButton,
        QWidget,
    )

    from altana.app.shell.window import COMPOSE, HAND_OVER, MODEL, WALK, MainWindow
    from altana.app.theme.style import apply_theme
    from altana.app.theme.widgets import Group

    application = QApplication([])
    language.of_qt(application)
    apply_theme(application)
    window = MainWindow(settings=QSettings(str(project.parent / "german.ini"), QSettings.Format.IniFormat))
    window.resize(1280, 800)
    window.show()
    texts: dict[str, None] = {}
    wide: list[str] = []

    def wait(done: object, seconds: float) -> None:
        loop, timer = QEventLoop(), QTimer()
        timer.timeout.connect(lambda: loop.quit() if callable(done) and done() else None)
        timer.start(20)
        QTimer.singleShot(int(seconds * 1000), loop.quit)
        loop.exec()

    def menu(of: QMenu) -> None:
        of.aboutToShow.emit()
        for action in of.actions():
            texts[action.text().split("\t")[0]] = None
            if isinstance(inner := action.menu(), QMenu):
                menu(inner)

    def look(at: QWidget) -> None:
        for name in ("text", "toolTip", "accessibleName", "placeholderText", "windowTitle", "shown_text"):
            told = getattr(at, name, None)
            if callable(told) and isinstance(text := told(), str):
                texts.update(dict.fromkeys(text.split("\n")))
        if isinstance(at, QComboBox):
            texts.update(dict.fromkeys(at.itemText(index) for index in range(at.count())))
        if isinstance(at, QToolButton) and isinstance(at.menu(), QMenu):
            menu(at.menu())
        if isinstance(at, QAbstractItemView) and (model := at.model()) is not None:
            columns = 1 if isinstance(at, QListView) else model.columnCount(at.rootIndex())
            for row in range(min(model.rowCount(at.rootIndex()), 40)):
                for column in range(columns):
                    texts[str(model.index(row, column).data() or "")] = None

    assert window.files.open_path(project)
    wait(lambda: window.workspace.studio.scene is not None, 60.0)
    for name, desk in (("model", MODEL), ("compose", COMPOSE), ("walk", WALK), ("hand-over", HAND_OVER)):
        window.going.choose_desk(desk)
        # The smallest screen there is room for; German words are longer than English ones.
        window.resize(1024, 700)
        wait(None, 0.3)
        wide += [f"{name}: the window takes {window.width()} px of 1024"] if window.width() > 1024 else []
        for part in window.findChildren(QPushButton):
            words = max(part.fontMetrics().horizontalAdvance(line) for line in part.text().split("\n"))
            if part.isVisible() and part.width() < words:
                wide.append(f"{name}: “{part.text()}” takes {words} px of {part.width()}")
        window.resize(1280, 800)
        for group in window.findChildren(Group):
            if group.isVisible() and group.folded:
                group.fold()
        wait(None, 1.0)
        for widget in [window, *window.findChildren(QWidget)]:
            look(widget)
            if isinstance(widget, QScrollArea) and widget.isVisible() and widget.widget() is not None:
                need, have = widget.widget().minimumSizeHint().width(), widget.viewport().width()
                # The panel's own margin takes a little more than it needs.
                wide += [f"{name}: {need} px of {have}"] if need > have + 10 else []
        window.grab().save(str(pictures / f"{name}.png"))
    for command in window.table:
        texts.update(dict.fromkeys((command.title, command.menu)))
    print(json.dumps({"texts": list(texts), "wide": wide}))
    window.workspace.bridge.document.mark_saved()
    window.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]), Path(sys.argv[2]))
