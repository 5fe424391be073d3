"""Rows whose light is followed to its end: how many samples they get, and their masters by path tracing."""

from __future__ import annotations

from dataclasses import replace

from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.light.transport import Cancelled
from altana.core.progress import Progress
from altana.core.project import MATERIALS, WHITE_CARD, Camera, Light, Shot
from altana.core.staging import Staging
from altana.jobs.requests import Pano, Picture
from altana.jobs.rows.shared import Rows, drawn_as
from altana.jobs.traced_orders import TracedBand, TracePicture
from altana.jobs.tracing import Tracing
from altana.render.outputs import Master
from altana.render.traced.sights import Aperture, FlatSights, RoundSights, Sights, aperture

#: Where time decides: more samples than this no picture gets.
MOST_SAMPLES = 65_536
#: A picture is clean where so much grain is left before denoising (measured: outside after 60 samples, the
#: demo's hall after 390, its dark ticket office after 640); a stubborn one gets no more samples than this.
CLEAN, MOST_CLEAN_SAMPLES = 0.06, 1024


class TracedRows:
    """Traces rows; ``albedo`` : the colours of what the last one shows, (height, width, 3)."""

    def __init__(self, rows: Rows) -> None:
        self.rows = rows
        self.albedo: Floats32 | None = None
        #: Started when the first is made.
        self._tracing: Tracing | None = None

    def traced(self, shot: Shot, film: bool = False) -> bool:
        """Whether a row's light is followed to its end."""
        return shot.rendition in (MATERIALS, WHITE_CARD) and self.samples_of(shot, film) > 0

    def samples_of(self, shot: Shot, film: bool = False) -> int:
        """Samples a pixel of a row; 0 where it is drawn in passes."""
        making = self.rows.project.qualities.of(shot.quality)
        usual = making.film_samples if film else making.samples
        return (self.rows.samples or shot.samples or usual) if usual else 0

    def trace(self, sights: Sights, item: Picture | Pano, progress: Progress) -> Master:
        """The master of a row by path tracing."""
        return self.trace_light(
            sights,
            item.shot,
            self.rows.light_of(item),
            self.rows.staging(item),
            item.camera.ev,
            self.samples_of(item.shot),
            progress,
        )

    def trace_light(
        self,
        sights: Sights,
        shot: Shot,
        light: Light,
        staging: Staging,
        ev: float,
        samples: int,
        progress: Progress,
        seed: int = 1,
    ) -> Master:
        """Light along sights, as a master.  seed : what is drawn by lot.  Raises UserError or Cancelled."""
        usual = samples
        order = replace(self._order(sights, shot, light, staging, ev, samples), seed=seed)
        try:
            traced = self._tracer().trace(order, progress)
        except (Cancelled, UserError, RuntimeError):
            self.close()
            raise
        self.albedo = traced.albedo
        self.rows.renderer.views_drawn += 1
        self.rows.other_samples |= traced.samples != usual
        return Master(traced.light, None if drawn_as(shot).sky else traced.cover)

    def band(self, item: Picture | Pano, eye: int, number: int, progress: Progress) -> TracedBand:
        """One of the bands of a traced picture with its grain.  eye : of a panorama for two, 0 or 1.  Raises
        UserError or Cancelled."""
        sights: Sights
        if isinstance(item, Pano):
            sights = self.round_sights(item, item.eyes[eye])
        else:
            sights = FlatSights(item.view(), self.lens_of(item.camera))
        shot, samples = item.shot, self.samples_of(item.shot)
        order = self._order(
            sights, shot, self.rows.light_of(item), self.rows.staging(item), item.camera.ev, samples
        )
        try:
            return self._tracer().band(replace(order, band=number), progress)
        except (Cancelled, UserError, RuntimeError):
            self.close()
            raise

    def close(self) -> None:
        """End what was started for the rows."""
        if self._tracing is not None:
            self._tracing.close()
            self._tracing = None

    @staticmethod
    def lens_of(camera: Camera) -> Aperture | None:
        """The open lens of a camera whose depth of field is on."""
        if not camera.blur:
            return None
        return aperture(camera.focal_mm, camera.f_number, camera.focus_m or camera.aim_m)

    @staticmethod
    def round_sights(item: Pano, aside_m: float) -> RoundSights:
        """All round a panorama's place.  aside_m : how far each eye stands to the side of its direction."""
        size = (item.width_px, item.height_px)
        return RoundSights(item.camera.eye, item.front_deg, size, aside_m)

    def _tracer(self) -> Tracing:
        if self._tracing is None:
            self._tracing = Tracing(self.rows.models_of or self.rows.project, self.rows.base, self.rows.job)
        return self._tracing

    def _order(
        self, sights: Sights, shot: Shot, light: Light, staging: Staging, ev: float, samples: int
    ) -> TracePicture:
        minutes = self.rows.minutes or shot.minutes
        if minutes:
            # Time alone decides then.
            samples = max(samples, MOST_SAMPLES)
        clean = shot.until_clean and not minutes and not self.rows.samples
        if clean:
            samples = MOST_CLEAN_SAMPLES
        drawn = drawn_as(shot)
        order = TracePicture(
            sights, light, staging, ev, samples, minutes * 60.0, white=drawn.white, sky_shown=drawn.sky
        )
        return replace(order, grain=CLEAN if clean else 0.0, guides=shot.passes)
