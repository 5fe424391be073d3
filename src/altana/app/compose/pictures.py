"""What takes the picture's place on the Compose desk: the Frame, variants side by side, the finished picture,
the panorama."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QInputDialog, QStackedWidget, QWidget

from altana.app.canvas.frame import FrameView
from altana.app.canvas.live import FinishedView
from altana.app.canvas.round_place import RoundPlace
from altana.app.canvas.variants import VariantsView
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.variants import LADDER_WORDS, MOST_VARIANTS, add_variant, set_ladder
from altana.core.errors import Refused
from altana.core.measures import parse_millimetres


class Pictures(QStackedWidget):
    """``flicked`` when another variant, or the camera again, is shown in the Frame."""

    flicked = Signal()

    def __init__(self, workspace: Workspace, tokens: Tokens, frame: FrameView) -> None:
        super().__init__()
        self._bridge, self._state, self._frame = workspace.bridge, workspace.state, frame
        self.variants = VariantsView(workspace, tokens)
        self.finished = FinishedView(workspace, tokens)
        self.round = RoundPlace(workspace, tokens)
        #: The variant that is shown in the Frame; -1 for the camera itself.
        self._flicked = -1
        for page in (frame, self.variants, self.finished, self.round):
            self.addWidget(page)
        self.variants.left.connect(lambda: self.compare(False))
        for live in (self.finished, self.round):
            live.left.connect(lambda: self.look_at(frame))

    @property
    def comparing(self) -> bool:
        """Whether variants stand side by side in place of the Frame."""
        return self.currentWidget() is self.variants

    @property
    def all_round(self) -> bool:
        """Whether the panorama from here stands in place of the Frame."""
        return self.currentWidget() is self.round

    def compare(self, on: bool | None = None) -> None:
        """Variants side by side, or the one picture."""
        wanted = not self.comparing if on is None else on
        self.look_at(self.variants if wanted else self._frame)

    def look_at(self, page: QWidget) -> None:
        """What takes the large place: the Frame, its variants, the picture as it will be made, the panorama
        from here; what is there already gives way to the Frame."""
        self._flick_to(-1)
        page = self._frame if page is self.currentWidget() else page
        self.setCurrentWidget(page)
        page.setFocus()

    def keep_try(self) -> None:
        """Keep what the Frame shows as a variant of the camera: the loose view, or the camera as it is."""
        active, loose = self._state.active, self._state.loose
        if active is None:
            return
        tried = (
            replace(active.with_view(loose.pose, loose.lens), aim_m=loose.aim_m)
            if loose is not None
            else None
        )
        self._bridge.apply(tr("Keep a try"), lambda p: add_variant(p, active.id, tried))

    def take_ladder(self, kind: str, focals_mm: tuple[float, ...] = ()) -> None:
        """Lay a ladder of tries beside the camera."""
        active = self._state.active
        if active is not None and self._bridge.apply(
            tr("Ladder of {ladder_words}", ladder_words=spoken(LADDER_WORDS[kind])),
            lambda p: set_ladder(p, active.id, kind, focals_mm),
        ):
            self.compare(True)

    def ask_ladder(self, kind: str = "lens-here") -> None:
        """Ask for the lenses of a ladder from this place, or (``lens``) of one that keeps the subject as
        large."""
        own = self._bridge.project.own_focals_mm
        usual = ", ".join(f"{value:g}" for value in own[:MOST_VARIANTS]) or "18, 24, 35, 50"
        typed, accepted = QInputDialog.getText(
            self,
            tr("Ladder of lenses"),
            tr("Focal lengths in mm, 2 to {most_variants}, with commas between", most_variants=MOST_VARIANTS),
            text=usual,
        )
        if not accepted:
            return
        try:
            lenses = tuple(
                parse_millimetres(part) for part in typed.replace(";", ",").split(",") if part.strip()
            )
        except Refused as error:
            self._bridge.notices.trouble(error.sentence)
            return
        self.take_ladder(kind, lenses)

    def flick(self) -> None:
        """Show the next variant in the Frame, and after the last the camera again."""
        active = self._state.active
        if active is None or not active.variants:
            return
        self._flick_to(self._flicked + 1 if self._flicked + 1 < len(active.variants) else -1)

    def _flick_to(self, index: int) -> None:
        active = self._state.active
        self._flicked = index if active is not None and index < len(active.variants) else -1
        before = self._frame.override
        self._frame.override = active.variants[index] if active is not None and index >= 0 else None
        if before is not self._frame.override:
            self._frame.refresh()
            self.flicked.emit()

    @property
    def flicking(self) -> bool:
        """Whether a variant is shown in the Frame."""
        return self._flicked >= 0

    def leave_flicking(self) -> None:
        """Back from a variant to the camera itself."""
        self._flick_to(-1)
