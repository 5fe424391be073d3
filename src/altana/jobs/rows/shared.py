"""What all rows of a run share: the project and its model, the renderer with the light it has now, tone and
staging."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from pathlib import Path

from altana.core.camera.view import View
from altana.core.conventions import Floats32
from altana.core.geometry.edges import Edges, edges_of
from altana.core.light.own import light_for
from altana.core.light.sky import Sky
from altana.core.light.tone import developed
from altana.core.light.transport import LightMap
from altana.core.progress import Progress
from altana.core.project import WHITE_CARD, Light, Making, Project, Shot, Tone
from altana.core.staging import Lookup, Staging
from altana.jobs.elsewhere import Elsewhere
from altana.jobs.job_files import master_path
from altana.jobs.light import KeptLighting, light_of
from altana.jobs.masters import master_key, read_master, sky_drawn
from altana.jobs.models import Opened
from altana.jobs.requests import Pano, Picture
from altana.jobs.surroundings import sky_for
from altana.render.encode import exr_key
from altana.render.outputs import DrawnAs, Facts, Master
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from altana.storage.tables import KeptTables

#: With fewer passes than this a shadow's edge is worth less reading.
FEW_PASSES = 8


@dataclass(slots=True)
class Rows:
    """One project's rows, drawn with one renderer."""

    project: Project
    opened: Opened
    lookup: Lookup
    renderer: Renderer
    base: Path
    soft: LightMap | None = None
    out: Path | None = None
    #: The light whose soft light the renderer has now; None the project's.
    lit: Light | None = None
    #: What lights of other hours are computed with.
    lighting: KeptLighting = field(default_factory=KeptLighting)
    #: Of the request: samples a pixel and minutes for a picture, instead of what rows and words say; 0 keeps
    #: those.
    samples: int = 0
    minutes: float = 0.0
    #: Stills are drawn in the light of the light map alone, whatever their quality asks for.
    hurried: bool = False
    #: Whether anything got more or fewer samples than its row says (time, grain, *Enough*), or light that was
    #: kept: how long it took says nothing of others.
    other_samples: bool = False
    #: Where unfinished samples are kept.
    job: Path | None = None
    #: The project whose models are traced, where ``project`` does not name them.
    models_of: Project | None = None
    #: Other machines that make pictures, or parts of them, for this one.
    elsewhere: Elsewhere | None = None
    _edges: Edges | None = None
    _tables: KeptTables | None = None

    def quality(self, shot: Shot, film: bool = False) -> Quality:
        """How often a row is drawn over itself, and with what shadows."""
        return quality_of(self.project.qualities.of(shot.quality), film)

    @property
    def edges(self) -> Edges:
        """The model's edges that a draughtsman would draw."""
        if self._edges is None:
            self._edges = edges_of(self.opened.model)
        return self._edges

    def facts(self, item: Picture) -> Callable[[View], Facts]:
        """What asks the renderer what a still shows."""
        staging = self.staging(item)
        return lambda view: self.renderer.facts(view, staging, panes=False)

    def staging(self, item: Picture | Pano) -> Staging:
        """What a row leaves out, moves or draws faintly."""
        staging = self.lookup.staging(self.project, item.camera)
        if not item.shot.left_out:
            return staging
        more = self.lookup.numbers([item.shot.left_out])
        return replace(staging, omitted=tuple(sorted({*staging.omitted, *more})))

    def light_of(self, item: Picture | Pano) -> Light:
        """The light of a row: the project's, with what its camera and the row itself have of their own."""
        return light_for(self.project.light, item.camera, item.shot)

    def sky(self, light: Light, progress: Progress) -> Sky:
        """The sky of a light; where it is another than the project's, its soft light is put on first."""
        wanted = None if light == self.project.light else light
        if wanted != self.lit:
            soft = self.light_map(light, progress)
            if soft is not None:
                self.renderer.relight(soft.pixels)
            self.lit = wanted
        return sky_for(light, self.base)

    def light_map(self, light: Light, progress: Progress) -> LightMap | None:
        """The soft light of a light; None where it is only estimated.  Raises Cancelled."""
        if light == self.project.light:
            return self.soft
        return light_of(self.opened, light, lambda share: progress(0.0), self.base, self.lighting)

    def tone_of(self, shot: Shot) -> Tone:
        """The row's own tone, or the project's."""
        return shot.tone or self.project.tone

    def developed(
        self, shot: Shot, light: Floats32, ev: float, alpha: Floats32 | None = None, around: bool = False
    ) -> Floats32:
        """Light under the row's tone.  around : of a panorama."""
        tone = self.tone_of(shot)
        if self._tables is None or self._tables.base != self.base:
            self._tables = KeptTables(self.base)
        return developed(light, ev, tone, alpha, self._tables.of(tone), around)

    def recheck(self) -> None:
        """Read colour tables again that have changed: a run keeps them as they were, a window follows
        them."""
        if self._tables is not None:
            self._tables.recheck()

    def has_master(self, item: Picture | Pano) -> bool:
        """Whether an earlier run left the master of a row, so that nothing need be drawn."""
        return not (isinstance(item, Pano) and item.shot.faces) and self.kept_master(item) is not None

    def kept_master(self, item: Picture | Pano) -> Master | None:
        """The master of an earlier run, where it shows the same: only tone and file differ, and nothing is
        drawn again."""
        if not item.shot.keep_master or self.out is None:
            return None
        path = master_path(self.out, item.file)
        if not path.is_file() or exr_key(path) != master_key(self.project, item):
            return None
        return read_master(path)


def quality_of(making: Making, film: bool = False) -> Quality:
    """What the renderer does for the figures of a word."""
    passes = making.film_passes if film else making.passes
    fine = passes >= FEW_PASSES
    return Quality(passes, making.shadow_px, taps=4 if fine else 2, fitted=fine and not film)


def drawn_as(shot: Shot) -> DrawnAs:
    """A sky is drawn with the building where nothing else takes its place; a pencil leaves paper there."""
    return DrawnAs(shot.rendition == WHITE_CARD, sky_drawn(shot))
