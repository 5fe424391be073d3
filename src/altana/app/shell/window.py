"""The one window: top bar, desks, and the line at the bottom, put together."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from PySide6.QtCore import QEvent, QPoint, QSettings, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QGuiApplication, QKeyEvent
from PySide6.QtWidgets import QAbstractButton, QComboBox, QMainWindow, QMenu, QVBoxLayout, QWidget

from altana.app.compose.desk import ComposeDesk
from altana.app.hand_over.desk import HandOverDesk
from altana.app.light.panel import LightPanel
from altana.app.model.desk import ModelDesk
from altana.app.shell.about_page import AboutPage
from altana.app.shell.activity import Activity
from altana.app.shell.camera_actions import CameraActions
from altana.app.shell.commands.every import every_command
from altana.app.shell.commands.keys_page import ShortcutPage
from altana.app.shell.commands.table import CommandTable
from altana.app.shell.desktop import notify
from altana.app.shell.dressing import Dressing
from altana.app.shell.exchange import Exchange
from altana.app.shell.field_keys import FieldKeys
from altana.app.shell.files import ProjectFiles
from altana.app.shell.going import Going
from altana.app.shell.making import Making
from altana.app.shell.models import ModelActions
from altana.app.shell.notice_bar import Desks, NoticeBar
from altana.app.shell.parts import Parts
from altana.app.shell.preferences_page import PreferencesPage
from altana.app.shell.top_bar import COMPOSE, HAND_OVER, MODEL, WALK, TopBar
from altana.app.theme.tokens import LIGHT, Tokens
from altana.app.theme.widgets import open_page, rule
from altana.app.theme.words import spoken, tr
from altana.app.walk.desk import WalkDesk
from altana.app.workspace.notices import Notice, Offer, Weight
from altana.app.workspace.preferences import Preferences
from altana.app.workspace.work import Work
from altana.app.workspace.workspace import Workspace
from altana.core.edits.planned import drop_shot
from altana.importers.table import READERS
from altana.jobs.brought import TAKEN_IN
from altana.jobs.remembered import PICTURES
from altana.storage.project_file import SUFFIX

__all__ = ["COMPOSE", "HAND_OVER", "MODEL", "WALK", "MainWindow"]


class MainWindow(QMainWindow):
    """Puts the parts together; what they do is theirs."""

    def __init__(self, tokens: Tokens = LIGHT, settings: QSettings | None = None) -> None:
        super().__init__()
        settings = settings or QSettings("Altana", "Altana")
        # Its own, because another chrome may be chosen while it is open.
        tokens = replace(tokens)
        self.preferences = Preferences(settings)
        self.workspace = space = Workspace.started()
        self.setWindowTitle("Altana")
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        work = Work()
        self.table = CommandTable(self, self.preferences.keys)
        self.activity = Activity(space.background, work.cancel)
        self.files = ProjectFiles(self, space, settings, self.activity)
        self.compose = ComposeDesk(space, tokens)
        self.model_desk = ModelDesk(space, tokens, self.compose.strip.thumb, self.activity.do)
        self.walk_desk = WalkDesk(space, tokens)
        self.handover = HandOverDesk(space, tokens, settings)
        self.desks = Desks()
        for desk in (self.model_desk, self.compose, self.walk_desk, self.handover):
            self.desks.addWidget(desk)
        self.desks.feet[self.handover] = self.handover.run_bar
        self.desks.setCurrentIndex(COMPOSE)
        self.going = Going(
            space,
            self.desks,
            self.compose,
            self.model_desk,
            self.walk_desk,
            self.handover,
            lambda index: self.top.show_desk(index),
        )
        entries = partial(self.going.entries, self.table)
        self.top = TopBar(self, space, entries, self._fill_menu, self.going.choose_desk)
        self.light = LightPanel(space, self.desks)
        self.light.hide()
        # After the panel: on another desk both come to the front, and what is said lies before it.
        self.notice_bar = NoticeBar(self.desks, space.notices, self.files.new_project)
        self.cameras = CameraActions(self, space, self.compose.strip.ids)
        self.models = ModelActions(space, self.files, self.activity, self.model_desk, self.compose.plan)
        self.making = Making(self, space, self.files, self.activity, work)
        self.exchange = Exchange(self, space, self.files, self.activity, work, self.going.to_camera)
        self.table.add(*every_command(self._parts()))
        FieldKeys(self)
        self._lay_out()
        self._connect()
        self._refresh_top()
        self.compose.frame.setFocus()
        self.dressing = Dressing(self, space, self.preferences, tokens, self.compose, self.files)

    def _parts(self) -> Parts:
        return Parts(
            window=self,
            workspace=self.workspace,
            compose=self.compose,
            model=self.model_desk,
            walk=self.walk_desk,
            hand_over=self.handover,
            files=self.files,
            cameras=self.cameras,
            models=self.models,
            making=self.making,
            exchange=self.exchange,
            going=self.going,
            search=self.top.search,
            light=self.light,
            show_light=self.show_light,
            show_preferences=self.show_preferences,
            show_about=lambda: open_page(AboutPage(self)),
            show_keys=self.show_keys,
            show_menu=self.top.project.showMenu,
        )

    def _lay_out(self) -> None:
        body = QWidget()
        body.setObjectName("chrome")
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for widget, stretch in ((self.top, 0), (rule(), 0), (self.desks, 1), (rule(), 0), (self.activity, 0)):
            column.addWidget(widget, stretch)
        self.setCentralWidget(body)

    def _connect(self) -> None:
        space, compose = self.workspace, self.compose
        space.bridge.settled.connect(self._refresh_top)
        space.bridge.name_changed.connect(self._refresh_top)
        self.files.shown.connect(self._project_shown)
        self.files.moved.connect(self._project_moved)
        self.files.saved.connect(self._refresh_top)
        compose.strip.menu.connect(self._camera_menu)
        compose.strip.planned_menu.connect(self._planned_menu)
        for view in (compose.plan, compose.section, self.walk_desk.plan):
            view.pointed.connect(self.activity.place.setText)
        compose.settings.make_stills.connect(self.making.make_stills)
        compose.check_page.listed.connect(self.making.list_gaps)
        self.walk_desk.make_film.connect(self.making.make_film)
        self.making.work.finished.connect(self.handover.list.follow_made)
        self.model_desk.compose_wanted.connect(lambda: self.going.choose_desk(COMPOSE))
        self.handover.frame_wanted.connect(self.going.to_picture)
        self.model_desk.take_in_wanted.connect(self.exchange.take_in)
        self.model_desk.send_wanted.connect(self.exchange.send)
        for wanted, run in (
            (self.handover.side.send_wanted, self.exchange.send),
            (self.handover.side.take_in_wanted, self.exchange.take_in),
            (self.handover.side.remarks_wanted, self.exchange.remarks),
        ):
            wanted.connect(run)
        self.handover.run_bar.told_all.connect(partial(notify, "Altana"))
        self.activity.look_wanted.connect(self.going.to_made_in)
        self.light.left.connect(self.show_light)
        self.light.shade.hours_wanted.connect(self.making.count_hours)
        space.studio.light_progress.connect(self._show_light)
        space.studio.places_lit.connect(self._show_refining)

    # ------------------------------------------------------------------ the project

    def _project_shown(self) -> None:
        self.setWindowTitle(tr("{name} – Altana", name=self.workspace.bridge.project.name))
        fate = self._project_moved()
        if fate == "over":
            summary = self.handover.production.summary
            offer = Offer(tr("Look at the results"), self.going.to_results)
            self.workspace.notices.note(
                tr("While Altana was closed: {summary}", summary=spoken(summary)), offer
            )
        elif fate == "broken":
            offer = Offer(tr("Go on with it"), self.handover.run_bar.resume)
            self.workspace.notices.note(
                tr("A run of the shot list was broken off. What was made is kept."), offer
            )

    def _project_moved(self) -> str:
        """What is made lies beside the project, wherever it is; how a run of it stands."""
        path = self.files.project_path
        self.compose.pictures.finished.base = path.parent
        self.light.follow_project(path)
        return self.handover.opened(path)

    def _refresh_top(self) -> None:
        self.activity.saved.setText(self.top.refresh(self.files.path))

    def _show_light(self, share: float) -> None:
        if not self.making.work.running:
            self.activity.tell_share(tr("Computing the light of the building"), share)

    def _show_refining(self, _channel: str, share: float, _more: bool) -> None:
        if not self.making.work.running:
            self.activity.tell_share(tr("Refining the light of this picture"), share)

    def show_demo_banner(self) -> None:
        """Say that this is the demo, and how to open one's own model."""
        sentence = tr(
            "This is the demo, the made-up Larkwater ferry terminal. Try everything: your own model is one step away."
        )
        self.notice_bar.show_notice(Notice(Weight.NOTE, sentence), own=True)

    # ------------------------------------------------------------------ menus and keys

    def _fill_menu(self, menu: QMenu) -> None:
        self.table.fill(menu)
        menu.addSeparator()
        recent = menu.addMenu(tr("Open again"))
        for path in self.files.recent():
            recent.addAction(f"{path.stem}   {path.parent}", partial(self.files.open_path, path))
        recent.setEnabled(bool(self.files.recent()))

    def _camera_menu(self, camera_id: str, at: QPoint) -> None:
        state = self.workspace.state
        if camera_id not in state.selected:
            state.select(camera_id)
        menu = QMenu(self)
        self.table.fill_one(menu, tr("Camera"))
        menu.popup(at)

    def _planned_menu(self, shot_id: str, at: QPoint) -> None:
        bridge = self.workspace.bridge
        menu = QMenu(self)
        menu.addAction(tr("Stand a camera for it"), lambda: self.compose.arm(True, shot_id))
        menu.addAction(
            tr("Drop it"), lambda: bridge.apply(tr("Drop planned shot"), lambda p: drop_shot(p, shot_id))
        )
        menu.popup(at)

    def show_light(self) -> None:
        """The panel of the project's light, or away with it."""
        self.light.setVisible(self.light.isHidden())
        (self.light.moment.time if not self.light.isHidden() else self.compose.frame).setFocus()

    def show_preferences(self) -> None:
        """The page of preferences."""
        self.preferences_page = PreferencesPage(self, self.preferences, self.table)
        open_page(self.preferences_page)

    def dress(self) -> None:
        """Light or dark, as it was chosen or as the desktop is."""
        self.dressing.dress()

    @property
    def keys_page(self) -> ShortcutPage:
        """The page of all keys as it was opened last."""
        return self.findChildren(ShortcutPage)[-1]

    def show_keys(self) -> None:
        """The page of all keys."""
        open_page(ShortcutPage(self, self.table))

    def event(self, event: QEvent) -> bool:
        """Space presses the button that has the focus; it is a key of the desk everywhere else."""
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_Space
            and isinstance(self.focusWidget(), QAbstractButton | QComboBox)
        ):
            event.accept()
            return True
        return bool(super().event(event))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Return ends a route that is being drawn; Escape leaves a variant shown in the Frame."""
        drawing = self.walk_desk.walks.draw.isChecked()
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and drawing:
            self.walk_desk.walks.end_route()
        elif event.key() != Qt.Key.Key_Escape:
            super().keyPressEvent(event)
        elif drawing:
            self.walk_desk.walks.draw.setChecked(False)
        else:
            self._step_back()

    def _step_back(self) -> None:
        """Escape, one level a press: a check of all, a tool, what stands in the Frame's place, a variant, the
        panel of the light, a notice."""
        compose = self.compose
        if self.going.desk == COMPOSE and compose.checking:
            compose.check_all(False)
        elif self.going.desk == COMPOSE and compose.leave_tool():
            return
        elif self.going.desk == COMPOSE and compose.pictures.currentWidget() is not compose.frame:
            compose.pictures.look_at(compose.frame)
        elif self.going.desk == COMPOSE and compose.pictures.flicking:
            compose.pictures.leave_flicking()
        elif not self.light.isHidden():
            self.show_light()
        elif not self.notice_bar.isHidden():
            self.notice_bar.put_away()

    # ------------------------------------------------------------------ window events

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Models, projects and pictures that Altana made may be dropped."""
        if any(
            Path(url.toLocalFile()).suffix.lower() in (*READERS, *PICTURES, *TAKEN_IN, SUFFIX)
            for url in event.mimeData().urls()
        ):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open what was dropped, after the drop has ended."""
        path = Path(event.mimeData().urls()[0].toLocalFile())
        kind = path.suffix.lower()
        take: Callable[[Path], object] = self.going.to_picture if kind in PICTURES else self.files.open_path
        # What is a model as well is opened as one; remarks and tables are looked into.
        if kind in TAKEN_IN and kind not in READERS:
            take = self.exchange.look_into
        QTimer.singleShot(0, partial(take, path))

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask about unsaved changes, end the children."""
        if not self.files.may_leave():
            event.ignore()
            return
        self.files.stop()
        self.making.work.close()
        # A run of the shot list goes on without the window.
        self.handover.run_bar.leave()
        self.workspace.studio.close()
        event.accept()
        QGuiApplication.processEvents()
