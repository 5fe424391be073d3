"""Film frames that are drawn otherwise than the Frame shows them: in a row's own rendition, tone, background
and quality."""

from __future__ import annotations

import zlib
from dataclasses import replace

from altana.core.camera.view import View
from altana.core.light.sky import Sky
from altana.core.light.tone import LUMINANCE
from altana.core.progress import Progress
from altana.core.project import AS_BEHIND, LINES, MATERIALS, NO_TONE, PENCIL, SKY, Light, Shot
from altana.core.staging import Staging
from altana.jobs.behind import over
from altana.jobs.requests import Film
from altana.jobs.rows.backgrounds import Backgrounds
from altana.jobs.rows.shared import Rows, drawn_as
from altana.jobs.rows.traced import TracedRows
from altana.render.drawing import line_drawing, pencil_drawing
from altana.render.encode import Pixels
from altana.render.outputs import Facts, Master
from altana.render.pictures import grained
from altana.render.traced.sights import FlatSights

#: Nothing smooths the edges of a master afterwards.
FEWEST_PASSES = 3
INSIDE_EV = 12.5


class FilmFrames:
    """Makes film frames of rows."""

    def __init__(self, rows: Rows, tracer: TracedRows, backgrounds: Backgrounds) -> None:
        self.rows, self.tracer, self.backgrounds = rows, tracer, backgrounds

    def special(self, shot: Shot) -> bool:
        """Whether a film of this row is drawn otherwise than the Frame shows it."""
        return (
            shot.rendition != MATERIALS
            or shot.background != SKY
            or shot.ground != AS_BEHIND
            or self.rows.tone_of(shot) != NO_TONE
            or self.tracer.traced(shot, film=True)
        )

    def film_frame(
        self, item: Film, view: View, ev: float, sky: Sky, staging: Staging, light: Light, progress: Progress
    ) -> Pixels:
        """One film frame in the row's own way: (height, width, 3) uint8.  Raises UserError, and Cancelled
        where ``progress`` says no."""
        shot = item.shot
        assert shot is not None

        def facts(wanted: View) -> Facts:
            return self.rows.renderer.facts(wanted, staging)

        if shot.rendition == LINES:
            shown = line_drawing(view, facts, shot.style, self.rows.edges if shot.style.hidden else None)[0]
            return grained(shown)
        if self.tracer.traced(shot, film=True):
            traced = self.traced_frame(shot, view, ev, light, staging, progress)
            return self._film_shown(item, view, ev, sky, light, traced)
        quality = self.rows.quality(shot, film=True)
        quality = replace(quality, passes=max(quality.passes, FEWEST_PASSES))
        master = self.rows.renderer.master(
            view, sky, quality, ev < INSIDE_EV, None, staging, ev, drawn_as(shot)
        )
        assert master is not None
        if shot.rendition == PENCIL:
            brightness = self.rows.developed(shot, master.light, ev, master.alpha) @ LUMINANCE
            return grained(pencil_drawing(view, facts, shot.style, self.rows.edges, brightness)[0])
        return self._film_shown(item, view, ev, sky, light, master)

    def traced_frame(
        self, shot: Shot, view: View, ev: float, light: Light, staging: Staging, progress: Progress
    ) -> Master:
        """The master of one film frame by path tracing.

        Other numbers are drawn by lot for other views: the grain of neighbouring film frames is not the same,
        and goes when they calm each other; a camera that stands sees the same grain.
        """
        samples, seed = self.tracer.samples_of(shot, film=True), zlib.crc32(repr(view).encode())
        return self.tracer.trace_light(FlatSights(view), shot, light, staging, ev, samples, progress, seed)

    def _film_shown(
        self, item: Film, view: View, ev: float, sky: Sky, light: Light, master: Master
    ) -> Pixels:
        """A film frame's master under the row's tone, before its background."""
        shot = item.shot
        assert shot is not None
        shown = self.rows.developed(shot, master.light, ev, master.alpha)
        if master.alpha is not None:
            shown = over(shown, master.alpha, self.backgrounds.of(view, shot, ev, light, sky))
        return grained(shown)
