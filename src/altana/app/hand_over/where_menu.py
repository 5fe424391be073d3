"""Where the list is made: on this machine, in several processes of it, or on machines that were lent; and who
does what."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, QProcess, QSettings, Qt
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QMenu,
    QSizePolicy,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import button, label, menu_button
from altana.app.theme.words import spoken, tr
from altana.app.workspace.ordered import HERE, Where
from altana.app.workspace.production import Production
from altana.core.errors import UserError
from altana.jobs.machines.places import OPEN_SAID, address_of, certificates_in

COLUMNS = (tr("Machine"), tr("Pieces"), tr("Each"), tr("Came over the network"), tr("Last"), tr("Trouble"))

SAID = tr("Where the list is made, and who does what")
#: So narrow the button becomes, where there is little width.
LEAST_PX = 80


class WhereMenu(QObject):
    """Chooses where a production is made, and shows who does what of it."""

    def __init__(self, parent: QWidget, production: Production, settings: QSettings) -> None:
        super().__init__(parent)
        self._parent, self._production, self._settings = parent, production, settings
        self.button = menu_button(tr("On this machine ▾"), SAID, self._fill)
        # In a narrow window its words end in an ellipsis before those of the buttons beside it are cut; the
        # whole stands in its tooltip.
        self.button.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        self.button.setMinimumWidth(LEAST_PX)
        self.page: WhoPage | None = None

    def _fill(self, menu: QMenu) -> None:
        cores = os.cpu_count() or 1
        several = Where(processes=max(2, cores))
        self._offer(menu, tr("This machine"), HERE)
        self._offer(menu, tr("This machine, %n processes", "", several.processes), several)
        address = str(self._settings.value("machines/address", ""))
        if address:
            known = Where(
                address=address,
                certificates=str(self._settings.value("machines/certificates", "")),
                shared=str(self._settings.value("machines/shared", "")),
            )
            self._offer(menu, tr("Machines at {held}", held=address), known)
        menu.addAction(tr("Other machines…"), self.ask)
        menu.addSeparator()
        menu.addAction(tr("Who does what…"), self.show_who)

    def _offer(self, menu: QMenu, text: str, where: Where) -> None:
        action = menu.addAction(text, partial(self.choose, where))
        action.setCheckable(True)
        action.setChecked(self._production.where == where)

    def choose(self, where: Where) -> None:
        """From the next run on it is made there."""
        self._production.where = where
        words = (
            tr("On machines at {partition}", partition=where.address.partition("://")[2])
            if where.address
            else tr("In %n processes", "", where.processes)
            if where.processes > 1
            else tr("On this machine")
        )
        self.button.setText(f"{words} ▾")
        self.button.setToolTip(tip_text(f"{words}. {SAID}"))

    def ask(self) -> None:
        """Ask for the scheduler of other machines."""
        dialog = OtherMachines(self._parent, self._settings, self.choose)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def show_who(self) -> None:
        """Open the page that shows who does what."""
        self.page = WhoPage(self._parent, self._production)
        self.page.show()


class OtherMachines(QDialog):
    """The address of a scheduler, the folder of certificates, and which machines answer there."""

    def __init__(self, parent: QWidget, settings: QSettings, chosen: Callable[[Where], None]) -> None:
        super().__init__(parent)
        self._settings, self._chosen = settings, chosen
        self._process: QProcess | None = None
        self.setWindowTitle(tr("Other machines"))
        self.setMinimumWidth(560)
        self.address = QLineEdit(str(settings.value("machines/address", "")))
        self.address.setPlaceholderText("tcp://studio-1:8786")
        self.address.setAccessibleName(tr("Address of the scheduler"))
        self.certificates = QLineEdit(str(settings.value("machines/certificates", "")))
        self.certificates.setPlaceholderText(tr("none: only here and nearby, not encrypted"))
        self.certificates.setAccessibleName(tr("Folder of certificates"))
        self.shared = QLineEdit(str(settings.value("machines/shared", "")))
        self.shared.setPlaceholderText(tr("none: models and light travel over the network"))
        self.shared.setAccessibleName(tr("Shared folder"))
        self.shared.setToolTip(
            tr("A folder that all these machines see; “altana worker --shared” names it there")
        )
        self.told = label("", "quiet")
        self.told.setWordWrap(True)
        self.told.setMinimumHeight(64)
        self.told.setAlignment(Qt.AlignmentFlag.AlignTop)
        self._build()

    def _build(self) -> None:
        how = label(
            tr(
                "On one machine run “altana scheduler --listen” with its address, on each machine that helps “altana worker” with the same address. Models and light travel by themselves; the pictures are the same to the byte."
            ),
            "quiet",
        )
        how.setWordWrap(True)
        form = QFormLayout()
        form.addRow(label(tr("Scheduler")), self.address)
        for name, field, tip in (
            (tr("Certificates"), self.certificates, tr("Choose the folder of certificates")),
            (tr("Shared folder"), self.shared, tr("Choose the folder that the machines share")),
        ):
            folder = QHBoxLayout()
            folder.addWidget(field, 1)
            folder.addWidget(button(tr("Choose…"), "small", tip, partial(self._folder, field)))
            form.addRow(label(name), folder)
        self.look = button(
            tr("Look who is there"), "small", tr("Ask the scheduler which machines are lent"), self.ask
        )
        buttons = QDialogButtonBox()
        use = button(tr("Use these"), "primary", tr("Make the list on these machines from now on"), self.use)
        leave = button(tr("Cancel"), "", tr("Change nothing"), self.reject)
        buttons.addButton(use, QDialogButtonBox.ButtonRole.AcceptRole)
        buttons.addButton(leave, QDialogButtonBox.ButtonRole.RejectRole)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(12)
        box.addWidget(how)
        box.addLayout(form)
        box.addWidget(self.look, 0, Qt.AlignmentFlag.AlignLeft)
        box.addWidget(self.told)
        box.addWidget(buttons)

    def _folder(self, field: QLineEdit) -> None:
        chosen = QFileDialog.getExistingDirectory(self, field.accessibleName())
        if chosen:
            field.setText(chosen)

    def _where(self) -> Where | None:
        """What was typed; None, and a sentence, where it is nothing that can be used."""
        certificates = self.certificates.text().strip()
        try:
            folder = certificates_in(certificates)
            # Whoever connects looks names up, in a process of its own.
            address = address_of(self.address.text(), folder, look_up=False)
        except UserError as error:
            self.told.setText(spoken(error.sentence))
            return None
        shared = self.shared.text().strip()
        if shared and not Path(shared).is_dir():
            self.told.setText(tr("{folder} is no folder that this machine sees.", folder=shared))
            return None
        return Where(address=address, certificates=certificates, shared=shared)

    def ask(self) -> None:
        """Ask the scheduler which machines are lent; the window does not wait for it."""
        where = self._where()
        if where is None or self._process is not None:
            return
        self.told.setText(tr("Asking…"))
        self._process = QProcess(self)
        self._process.finished.connect(self._answered)
        more = ["--certificates", where.certificates] if where.certificates else []
        self._process.start(sys.executable, ["-m", "altana", "machines", where.address, *more])

    def _answered(self) -> None:
        process, self._process = self._process, None
        assert process is not None
        printed = bytes(process.readAllStandardOutput().data()).decode("utf-8", "replace").strip()
        wrong = bytes(process.readAllStandardError().data()).decode("utf-8", "replace").strip()
        open_ = "" if self.certificates.text().strip() else f"\n{OPEN_SAID}"
        self.told.setText(
            f"{printed}{open_}" if printed else wrong.splitlines()[-1] if wrong else tr("Nobody answered.")
        )
        process.deleteLater()

    def use(self) -> None:
        """Make the list there from now on."""
        where = self._where()
        if where is not None:
            self._settings.setValue("machines/address", where.address)
            self._settings.setValue("machines/certificates", where.certificates)
            self._settings.setValue("machines/shared", where.shared)
            self._chosen(where)
            self.accept()


class WhoPage(QDialog):
    """Who does what of a run, how fast, and what failed where; it follows the run."""

    def __init__(self, parent: QWidget, production: Production) -> None:
        super().__init__(parent)
        self._production = production
        self.setWindowTitle(tr("Who does what"))
        self.resize(760, 320)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.told = label("", "quiet")
        self.told.setWordWrap(True)
        self.table = QTableWidget(0, len(COLUMNS))
        self.table.setHorizontalHeaderLabels(COLUMNS)
        self.table.verticalHeader().hide()
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.setAccessibleName(tr("Machines"))
        head = self.table.horizontalHeader()
        head.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        head.setSectionResizeMode(4, QHeaderView.ResizeMode.Stretch)
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 12, 14, 12)
        box.addWidget(self.told)
        box.addWidget(self.table)
        production.changed.connect(self.show_shares)
        self.show_shares()

    def show_shares(self) -> None:
        """The run as it is now."""
        state = self._production.state
        self.told.setText(
            state.waiting
            or (
                ""
                if state.machines
                else tr("One process of this machine makes it all: nothing is shared out.")
            )
        )
        self.told.setVisible(bool(self.told.text()))
        self.table.setRowCount(len(state.machines))
        for row, (name, share) in enumerate(sorted(state.machines.items())):
            each = f"{share.seconds / share.pieces:.1f} s" if share.pieces else ""
            came = f"{share.fetched / 1e6:.1f} MB"
            for column, text in enumerate((name, str(share.pieces), each, came, share.last, share.trouble)):
                self.table.setItem(row, column, QTableWidgetItem(text))
