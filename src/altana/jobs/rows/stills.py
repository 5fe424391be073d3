"""Stills: a picture in materials, as white card, in lines or pencil, to the bytes of its file."""

from __future__ import annotations

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Floats32
from altana.core.light.sky import Sky
from altana.core.light.tone import LUMINANCE, decoded
from altana.core.light.transport import Cancelled
from altana.core.progress import Progress
from altana.core.project import LINES, PENCIL, TRANSPARENT
from altana.core.staging import Staging
from altana.jobs.behind import over
from altana.jobs.masters import as_kept, camera_json, master_key
from altana.jobs.requests import Picture
from altana.jobs.rows.backgrounds import Backgrounds
from altana.jobs.rows.place_light import PlaceLight
from altana.jobs.rows.shared import Rows, drawn_as
from altana.jobs.rows.traced import TracedRows
from altana.render.drawing import colour_of, line_drawing, pencil_drawing
from altana.render.encode import exr_bytes
from altana.render.metadata import xmp_packet
from altana.render.outputs import DrawnAs, Master
from altana.render.passes import covered_by, passes_bytes
from altana.render.pictures import Labels, picture_bytes
from altana.render.quality import Quality
from altana.render.traced.sights import FlatSights


class Stills:
    """Makes stills.  ``told(share)`` is called often; when it says False the work ends with Cancelled."""

    def __init__(self, rows: Rows, tracer: TracedRows, backgrounds: Backgrounds, places: PlaceLight) -> None:
        self.rows, self.tracer, self.backgrounds, self.places = rows, tracer, backgrounds, places
        #: The still whose master was made last, with it and the layers that another machine made of it, for
        #: its passes.
        self._last: tuple[Picture, Master] | None = None
        self._layers: bytes | None = None

    def still(self, item: Picture, progress: Progress) -> tuple[bytes, bytes | None]:
        """The bytes of a still's file, and of its master where one is wanted.  Raises UserError or
        Cancelled."""
        shot, camera = item.shot, item.camera
        labels = Labels(camera.name, shot.dpi, xmp_packet(camera.name, camera_json(self.rows.project, item)))
        kept = self.rows.kept_master(item)
        whole = (
            self.rows.elsewhere.whole(item, progress)
            if self.rows.elsewhere is not None and kept is None
            else None
        )
        self._layers = whole.passes if whole is not None else None
        if whole is not None:
            return whole.data, whole.master
        if shot.rendition in (LINES, PENCIL):
            return self._drawing_bytes(item, *self.drawing(item, progress), labels), None
        master, key = kept, master_key(self.rows.project, item)
        if master is None:
            master = self.master(item, progress)
            self._last = (item, master) if shot.passes else None
        shown = self.rows.developed(shot, master.light, camera.ev, master.alpha)
        data = self.finished(item, master, shown, labels)
        keep = shot.keep_master and shot.file != "exr"
        return data, exr_bytes(
            master.light, camera.name, master.alpha, labels.xmp.decode(), key
        ) if keep else None

    def passes(self, item: Picture, progress: Progress) -> bytes:
        """The bytes of a still's layers for compositing.  Raises UserError or Cancelled."""
        if self._layers is not None:
            return self._layers
        view, traced = item.view(), self.tracer.traced(item.shot)
        if self._last is not None and self._last[0] == item:
            master = self._last[1]
        else:
            master = self.master(item, lambda share: progress(0.6 * share))
        facts = self.rows.facts(item)
        covered = covered_by(view, self.rows.opened.model, facts, lambda share: progress(0.6 + 0.35 * share))
        albedo = self.tracer.albedo if traced else None
        return passes_bytes(master.light, master.alpha, albedo, facts(view), covered, self.rows.opened.model)

    def look(self, item: Picture, progress: Progress) -> Floats32:
        """A still as its file shows it, displayed values (height, width, 3); on white where the file is
        transparent."""
        shot = item.shot
        if shot.rendition in (LINES, PENCIL):
            return self.drawing(item, progress)[0]
        master = self.master(item, progress)
        shown = self.rows.developed(shot, master.light, item.camera.ev, master.alpha)
        if master.alpha is None:
            return shown
        if shot.background == TRANSPARENT:
            shown, alpha = self.backgrounds.on_ground(item.view(), item.shot, shown, master.alpha)
            return over(shown, alpha, np.ones(3, np.float32))
        return over(
            shown,
            master.alpha,
            self.backgrounds.of(item.view(), shot, item.camera.ev, self.rows.light_of(item)),
        )

    def drawing(self, item: Picture, progress: Progress) -> tuple[Floats32, Floats32]:
        """Lines or pencil: displayed values (height, width, 3), and the (height, width) coverage with ink."""
        shot, view = item.shot, item.view()
        if shot.rendition == LINES:
            drawn = line_drawing(
                view, self.rows.facts(item), shot.style, self.rows.edges if shot.style.hidden else None
            )
            progress(0.9)
            return drawn
        # A pencil drawing hatches what a master shows as dark; where nothing stands there is paper.
        master = self.master(item, progress)
        brightness = self.rows.developed(shot, master.light, item.camera.ev, master.alpha) @ LUMINANCE
        return pencil_drawing(view, self.rows.facts(item), shot.style, self.rows.edges, brightness)

    def master(self, item: Picture, progress: Progress) -> Master:
        """The picture before exposure and tone, rounded as its file would be: kept or not, what is developed
        from it is the same."""
        if self.tracer.traced(item.shot):
            if self.rows.elsewhere is not None:
                elsewhere = self.rows.elsewhere.traced(item, 0, progress)
                if elsewhere is not None:
                    return as_kept(elsewhere)
            return as_kept(
                self.tracer.trace(FlatSights(item.view(), self.tracer.lens_of(item.camera)), item, progress)
            )
        if self.rows.elsewhere is not None:
            put_together = self.rows.elsewhere.drawn(item, progress)
            if put_together is not None:
                return as_kept(put_together)
        with self.places.shown(item, progress) as told:
            master = self.rows.renderer.master(*self._drawing_of(item, told))
        if master is None:
            raise Cancelled
        return as_kept(master)

    def tile(self, item: Picture, number: int, progress: Progress) -> tuple[Floats32, Floats32]:
        """One of the tiles of a still's master: light (h, w, 3) and coverage (h, w).  Raises UserError or
        Cancelled."""
        with self.places.shown(item, progress) as told:
            tile = self.rows.renderer.tile(number, *self._drawing_of(item, told))
        if tile is None:
            raise Cancelled
        return tile

    def finished(self, item: Picture, master: Master, shown: Floats32, labels: Labels) -> bytes:
        """A developed picture before its background, as its file."""
        shot, alpha = item.shot, master.alpha
        if shot.file == "exr":
            return picture_bytes("exr", shown, alpha, labels, master.light)
        if alpha is None:
            return picture_bytes(shot.file, shown, None, labels)
        if shot.background == TRANSPARENT:
            return picture_bytes(
                shot.file, *self.backgrounds.on_ground(item.view(), item.shot, shown, alpha), labels
            )
        return picture_bytes(
            shot.file,
            over(
                shown, alpha, self.backgrounds.of(item.view(), shot, item.camera.ev, self.rows.light_of(item))
            ),
            None,
            labels,
        )

    def _drawing_of(
        self, item: Picture, progress: Progress
    ) -> tuple[View, Sky, Quality, bool, Progress, Staging, float, DrawnAs]:
        """What the renderer is told of a still."""
        return (
            item.view(),
            self.rows.sky(self.rows.light_of(item), progress),
            self.rows.quality(item.shot),
            item.camera.inside,
            progress,
            self.rows.staging(item),
            item.camera.ev,
            drawn_as(item.shot),
        )

    def _drawing_bytes(self, item: Picture, shown: Floats32, ink: Floats32, labels: Labels) -> bytes:
        """A drawing; transparent, the ink alone is there."""
        shot = item.shot
        if shot.file == "exr":
            return picture_bytes("exr", shown, None, labels, decoded(shown))
        if shot.background == TRANSPARENT:
            inked = np.broadcast_to(colour_of(shot.style.ink), (*ink.shape, 3)).astype(np.float32)
            return picture_bytes(shot.file, inked, ink, labels)
        return picture_bytes(shot.file, shown, None, labels)
