"""Starts the window: with a file, with the newest project, or with the demo."""

from __future__ import annotations

import gc
import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

import platformdirs

from altana.core.errors import UserError
from altana.jobs.service import PICTURES, start_early
from altana.storage.log import start_log

if TYPE_CHECKING:
    from altana.app.shell.start_page import StartPage
    from altana.app.shell.window import MainWindow


def demo_folder() -> Path:
    """Where the demo is kept for this user."""
    return Path(platformdirs.user_data_dir("altana")) / "demo"


def start(file: Path | None) -> int:
    """Run the window until it is closed; the exit code."""
    if not any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        from altana.app.theme.words import tr

        raise UserError(
            tr(
                "There is no display, so the window cannot open. Set DISPLAY, or use the command line: altana --help."
            )
        )
    start_log()
    # Nothing that is loaded is garbage: it is not looked through while it is loaded, nor later.
    gc.disable()
    # It loads its own, and the models where they were read before, while the window is loaded here.
    start_early(*PICTURES, str(file) if file is not None else "")
    from PySide6.QtCore import QSettings, QTimer
    from PySide6.QtWidgets import QApplication

    from altana.app.theme.words import language, wanted

    settings = QSettings("Altana", "Altana")
    # Words that stand beside the code are looked up while it is loaded.
    language.choose(wanted(settings))

    from altana.app.shell.window import MainWindow
    from altana.app.theme.style import apply_theme, style_sheet
    from altana.app.theme.tokens import LIGHT
    from altana.app.workspace.garbage import Garbage
    from altana.app.workspace.preferences import size_before_start

    size_before_start(settings)
    application = QApplication(sys.argv[:1])
    language.of_qt(application)
    application.setApplicationName("Altana")
    apply_theme(application, sheet=False)
    window = MainWindow(settings=settings)
    window.dress()
    if not application.styleSheet():
        application.setStyleSheet(style_sheet(LIGHT))
    window.workspace.notices.listen()
    Garbage(window.workspace.studio)
    window.show()
    gc.freeze()
    gc.enable()
    QTimer.singleShot(0, lambda: _first(window, file))
    return application.exec()


def _first(window: MainWindow, file: Path | None) -> StartPage | None:
    if file is not None:
        window.files.open_path(file)
        return None
    from altana.app.shell.start_page import StartPage

    page = StartPage(
        window,
        window.files.recent(),
        window.files.open_path,
        window.files.open_dialog,
        lambda: _show_demo(window),
    )
    page.open()
    return page


def _show_demo(window: MainWindow) -> None:
    from altana.app.theme.words import tr
    from altana.demo.project import PROJECT

    project = demo_folder() / PROJECT
    if project.is_file():
        _open_demo(window, project)
    else:
        # Writing the demo takes some seconds, in which the window must answer.
        window.activity.do(
            tr("Building the demo, the Larkwater ferry terminal"), lambda: _written(window, project)
        )


def _written(window: MainWindow, project: Path) -> Callable[[], object]:
    from altana.demo.project import write_demo

    write_demo(demo_folder())
    return lambda: _open_demo(window, project)


def _open_demo(window: MainWindow, project: Path) -> None:
    if window.files.open_path(project):
        window.show_demo_banner()
