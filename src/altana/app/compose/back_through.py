"""Back through the wall: along the line of sight until a wanted width of the far wall fits."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QInputDialog, QMenu, QWidget

from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.back_through import WHOLE, SteppedBack, back_through_wall
from altana.core.errors import Refused
from altana.core.measures import parse_length
from altana.core.project import Camera


class BackThrough:
    """A menu of widths.  over : the widget that a question lies over."""

    def __init__(self, workspace: Workspace, over: QWidget) -> None:
        self._edits, self._studio, self._notices = workspace.edits, workspace.studio, workspace.notices
        self._over = over

    def fill(self, menu: QMenu) -> None:
        """Wanted widths of the far wall."""
        for text, whole in (
            (tr("All of the far wall, floor to ceiling"), "all"),
            (tr("Its whole width"), "width"),
            (tr("Its whole height"), "height"),
        ):
            menu.addAction(text, partial(self.go, None, whole))
        menu.addSeparator()
        for width in (2.0, 3.0, 4.0, 6.0):
            menu.addAction(tr("{width:g} m of it", width=width), partial(self.go, width))
        menu.addAction(tr("Another width…"), self.ask)

    def ask(self) -> None:
        """Ask for a width."""
        text, accepted = QInputDialog.getText(
            self._over,
            tr("Back through wall"),
            tr("Width of the far wall that should be in the picture"),
            text="3 m",
        )
        if not accepted:
            return
        try:
            self.go(parse_length(text))
        except Refused as error:
            self._notices.trouble(error.sentence)

    def go(self, width_m: float | None, whole: str = WHOLE[0]) -> None:
        """Back along the line of sight, through the wall behind if need be, until the width, or the whole,
        fits."""
        scene = self._studio.scene
        if scene is None:
            return
        tries: list[SteppedBack] = []

        def change(camera: Camera) -> Camera:
            tries.append(back_through_wall(scene.model, scene.rays, camera, width_m, scene.bodies, whole))
            return tries[-1].camera

        self._edits.do(tr("Back through wall"), change)
        if tries:
            say = self._notices.note if tries[-1].out else self._notices.done
            say(tries[-1].sentence)
