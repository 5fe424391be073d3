"""Small pictures of what a view shows, by which it is found what is worth mirroring."""

from __future__ import annotations

from dataclasses import replace

from altana.core.camera.view import View
from altana.core.staging import Staging
from altana.render.facts import FactsPass
from altana.render.outputs import Facts
from altana.render.shown import ModelDrawer

#: How wide they are.
LOOK_PX = 160


def look_view(view: View) -> View:
    """The same view as a small picture."""
    return replace(view, width_px=LOOK_PX, height_px=max(8, round(LOOK_PX * view.height_px / view.width_px)))


class Looks:
    """The facts of the small picture of one view, with panes and without; each is drawn when it is first
    asked for."""

    def __init__(self, shown: ModelDrawer, facts: FactsPass) -> None:
        self._shown, self._facts = shown, facts
        self._of: tuple[View | None, Staging | None] = (None, None)
        self._held: dict[bool, Facts] = {}

    def clear(self) -> None:
        """The model is another."""
        self._of, self._held = (None, None), {}

    def at(self, view: View, panes: bool) -> tuple[View, Facts]:
        """The small view, and what it shows.  panes : panes count as what is seen; otherwise sight goes
        through them."""
        if self._of != (view, self._shown.staging):
            self._of, self._held = (view, self._shown.staging), {}
        small = look_view(view)
        if panes not in self._held:
            self._held[panes] = self._facts.of(small, panes)
        return small, self._held[panes]
