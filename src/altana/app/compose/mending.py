"""What pressing a fact in trouble does: it mends at once, or shows where the trouble is and offers what mends
it."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QObject, QPoint, Signal
from PySide6.QtWidgets import QMenu

from altana.app.canvas.frame import FrameView
from altana.app.compose.facts import Facts
from altana.app.compose.settings import CameraSettings
from altana.app.theme.words import spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.checks.camera_check import MENDS, Trouble
from altana.core.conventions import COMMON_FOCALS_MM, STANDING_M
from altana.core.lens import hold_subject


class Mending(QObject):
    """Answers to the facts below the Frame.  ``aid_shown`` when an aid was laid over the picture."""

    aid_shown = Signal()

    def __init__(
        self, workspace: Workspace, frame: FrameView, facts: Facts, settings: CameraSettings
    ) -> None:
        super().__init__()
        self._bridge, self._state, self._edits = workspace.bridge, workspace.state, workspace.edits
        self._book, self._frame, self._facts, self._settings = workspace.book, frame, facts, settings
        facts.mend.connect(self._mend)

    def _troubles(self) -> tuple[Trouble, ...]:
        camera = self._state.shown
        return self._book.troubles(camera) if camera is not None else ()

    def fill(self, menu: QMenu, codes: tuple[str, ...]) -> None:
        """The mends of some kinds of trouble of the shown camera; for cut faces also what is opened, to be
        chosen."""
        active = self._state.active
        usable = active is not None and not active.locked and self._state.held
        for trouble in self._troubles():
            if trouble.code not in codes:
                continue
            for code in trouble.mends:
                if code != "go" and active is not None:
                    action = menu.addAction(
                        spoken(MENDS[code]), partial(self._book.mend, (active.id,), code, spoken(MENDS[code]))
                    )
                    action.setEnabled(usable)
        if "cut" in codes and self._facts.opened:
            menu.addSeparator()
            for object_id, name in self._facts.opened[:14]:
                menu.addAction(tr("Choose {name}", name=name), partial(self._choose_object, object_id))
        if not usable:
            menu.addAction(tr("The view is loose: go back to the camera first")).setEnabled(False)

    def _choose_object(self, object_id: str) -> None:
        self._state.choose_object(object_id)
        self._frame.update()

    def _offer_mends(self, fact: str) -> None:
        """A fact in trouble was pressed: where it is shows in the Frame, its mends in a menu below the
        fact."""
        aid, codes = {
            "cut": ("cut faces", ("cut",)),
            "gap": ("gaps", ("gap", "ground")),
            "far": ("gaps", ("far",)),
        }[fact]
        if aid not in self._frame.aids:
            self._frame.over.toggle(aid)
            self.aid_shown.emit()
        self.menu = QMenu(self._facts)
        self.fill(self.menu, codes)
        place = self._facts.place_of(fact)
        self.menu.popup(place.mapToGlobal(place.rect().topLeft()) - QPoint(0, self.menu.sizeHint().height()))

    def _mend(self, fact: str) -> None:
        """A fact in trouble was pressed."""
        active = self._state.active
        if fact == "edges":
            self._choose_object(self._facts.grazed)
        elif fact in ("cut", "gap", "far"):
            self._offer_mends(fact)
        elif active is None or active.locked or not self._state.held:
            self._bridge.notices.trouble(
                tr("The view is loose: go back to the camera, or move it here, then mend it.")
            )
        elif fact == "lean":
            self._settings.verticals.plumb_now()
        elif fact == "eye":
            self._settings.standpoint.take_height(STANDING_M)
        elif fact == "stretch":
            longer = next(
                (value for value in COMMON_FOCALS_MM if value > active.focal_mm + 0.01), active.focal_mm
            )
            self._edits.commit(tr("Calmer lens"), hold_subject, longer)
