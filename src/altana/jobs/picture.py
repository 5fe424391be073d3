"""One row of the shot list that is no film: a still drawn its own way, or a panorama; to the bytes of its file."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from PIL import Image

from altana.core.camera.view import View
from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.geometry.edges import Edges, edges_of
from altana.core.light.own import light_for
from altana.core.light.sky import Sky
from altana.core.light.tone import LUMINANCE, decoded, developed
from altana.core.light.transport import Cancelled, LightMap
from altana.core.project import (
    AS_BEHIND,
    LINES,
    MATERIALS,
    NO_TONE,
    PAPER,
    PAPER_WHITE,
    PENCIL,
    PICTURE,
    PLAIN,
    SKY,
    TRANSPARENT,
    WHITE_CARD,
    Camera,
    Light,
    Making,
    Project,
    Shot,
    Tone,
)
from altana.core.staging import Lookup, Staging
from altana.importers.pictures import opened_picture
from altana.jobs.behind import below_horizon, horizon_row, over, sky_light
from altana.jobs.elsewhere import Elsewhere
from altana.jobs.light import light_of
from altana.jobs.masters import as_kept, camera_json, master_key, master_path, read_master, sky_drawn
from altana.jobs.models import Opened
from altana.jobs.orders import TracedBand, TracePicture
from altana.jobs.progress import Progress
from altana.jobs.requests import Film, Pano, Picture
from altana.jobs.surroundings import sky_for
from altana.jobs.tracing import Tracing
from altana.render.drawing import colour_of, line_drawing, pencil_drawing
from altana.render.encode import Pixels, exr_bytes, exr_key
from altana.render.metadata import PanoramaTags, xmp_packet
from altana.render.panorama import FACES, Place, Slice, face_size, face_view, slices_of, square_of, stitched
from altana.render.passes import covered_by, passes_bytes
from altana.render.pictures import Labels, grained, picture_bytes
from altana.render.renderer import Drawn, Facts, Master, Quality, Renderer
from altana.render.traced.sights import Aperture, FlatSights, RoundSights, Sights, aperture
from altana.storage.project_file import beside
from altana.storage.tables import KeptTables

#: Hundreds of slices share one sun that stands still; what several passes would smooth, a finer picture does.
STEREO = Quality(taps=4)
#: With fewer passes than this a shadow's edge is worth less reading.
FEW_PASSES, MANY_PASSES = 8, 32
#: Nothing smooths the edges of a master afterwards.
FEWEST_PASSES = 3
INSIDE_EV = 12.5
LARGEST_PICTURE = 12_000
#: Where time decides: more samples than this no picture gets.
MOST_SAMPLES = 65_536
#: A picture is clean where so much grain is left before denoising (measured: outside after 60 samples, the demo's hall after 390, its dark
#: ticket office after 640); a stubborn one gets no more samples than this.
CLEAN, MOST_CLEAN_SAMPLES = 0.06, 1024


@dataclass(slots=True)
class PictureWork:
    """Draws rows with one renderer.  ``told(share)`` is called often; when it says False the work ends with Cancelled."""

    project: Project
    opened: Opened
    lookup: Lookup
    renderer: Renderer
    base: Path
    soft: LightMap | None = None
    out: Path | None = None
    _edges: Edges | None = None
    #: The light whose soft light the renderer has now; None the project's.
    lit: Light | None = None
    _tables: KeptTables | None = None
    #: What traces final pictures; started when the first is made.
    _tracing: Tracing | None = None
    #: Of the request: samples a pixel and minutes for a picture, instead of what rows and words say; 0 keeps those.
    samples: int = 0
    minutes: float = 0.0
    #: Whether anything got more or fewer samples than its row says (time, grain, *Enough*): how long it took says nothing of others.
    other_samples: bool = False
    #: The still whose master was made last, with it and the colours of what it shows, for its passes.
    _last: tuple[Picture, Master] | None = None
    _albedo: Floats32 | None = None
    #: Where unfinished samples are kept.
    job: Path | None = None
    #: The project whose models are traced, where ``project`` does not name them.
    models_of: Project | None = None
    #: Other machines that make pictures, or parts of them, for this one.
    elsewhere: Elsewhere | None = None
    #: Layers that another machine made of the still that was made last.
    _layers: bytes | None = None

    # ------------------------------------------------------------------ stills

    def still(self, item: Picture, told: Progress) -> tuple[bytes, bytes | None]:
        """The bytes of a still's file, and of its master where one is wanted.  Raises UserError or Cancelled."""
        shot, camera = item.shot, item.camera
        labels = Labels(camera.name, shot.dpi, xmp_packet(camera.name, camera_json(self.project, item)))
        kept = self._kept_master(item)
        whole = self.elsewhere.whole(item, told) if self.elsewhere is not None and kept is None else None
        self._layers = whole.passes if whole is not None else None
        if whole is not None:
            return whole.data, whole.master
        if shot.rendition in (LINES, PENCIL):
            return self._drawing_bytes(item, *self.drawing(item, told), labels), None
        master, key = kept, master_key(self.project, item)
        if master is None:
            master = self.master(item, told)
            self._last = (item, master) if shot.passes else None
        shown = self._developed(shot, master.light, camera.ev, master.alpha)
        data = self.finished(item, master, shown, labels)
        keep = shot.keep_master and shot.file != "exr"
        return data, exr_bytes(
            master.light, camera.name, master.alpha, labels.xmp.decode(), key
        ) if keep else None

    def passes(self, item: Picture, told: Progress) -> bytes:
        """The bytes of a still's layers for compositing.  Raises UserError or Cancelled."""
        if self._layers is not None:
            return self._layers
        view, traced = item.view(), self.traced(item.shot)
        if self._last is not None and self._last[0] == item:
            master = self._last[1]
        else:
            master = self.master(item, lambda share: told(0.6 * share))
        facts = self._facts(item)
        covered = covered_by(view, self.opened.model, facts, lambda share: told(0.6 + 0.35 * share))
        albedo = self._albedo if traced else None
        return passes_bytes(master.light, master.alpha, albedo, facts(view), covered, self.opened.model)

    def look(self, item: Picture, told: Progress) -> Floats32:
        """A still as its file shows it, displayed values (height, width, 3); on white where the file is transparent."""
        shot = item.shot
        if shot.rendition in (LINES, PENCIL):
            return self.drawing(item, told)[0]
        master = self.master(item, told)
        shown = self._developed(shot, master.light, item.camera.ev, master.alpha)
        if master.alpha is None:
            return shown
        if shot.background == TRANSPARENT:
            shown, alpha = self._on_ground(item, shown, master.alpha)
            return over(shown, alpha, np.ones(3, np.float32))
        return over(shown, master.alpha, self.behind(item.view(), shot, item.camera.ev, self.light_of(item)))

    def drawing(self, item: Picture, told: Progress) -> tuple[Floats32, Floats32]:
        """Lines or pencil: displayed values (height, width, 3), and the (height, width) coverage with ink."""
        shot, view = item.shot, item.view()
        if shot.rendition == LINES:
            drawn = line_drawing(
                view, self._facts(item), shot.style, self.edges if shot.style.hidden else None
            )
            told(0.9)
            return drawn
        # A pencil drawing hatches what a master shows as dark; where nothing stands there is paper.
        master = self.master(item, told)
        brightness = self._developed(shot, master.light, item.camera.ev, master.alpha) @ LUMINANCE
        return pencil_drawing(view, self._facts(item), shot.style, self.edges, brightness)

    def tone_of(self, shot: Shot) -> Tone:
        """The row's own tone, or the project's."""
        return shot.tone or self.project.tone

    def _developed(
        self, shot: Shot, light: Floats32, ev: float, alpha: Floats32 | None = None, around: bool = False
    ) -> Floats32:
        """Light under the row's tone.  around : of a panorama."""
        tone = self.tone_of(shot)
        if self._tables is None or self._tables.base != self.base:
            self._tables = KeptTables(self.base)
        return developed(light, ev, tone, alpha, self._tables.of(tone), around)

    def recheck(self) -> None:
        """Read colour tables again that have changed: a run keeps them as they were, a window follows them."""
        if self._tables is not None:
            self._tables.recheck()

    def has_master(self, item: Picture | Pano) -> bool:
        """Whether an earlier run left the master of a row, so that nothing need be drawn."""
        return not (isinstance(item, Pano) and item.shot.faces) and self._kept_master(item) is not None

    def _kept_master(self, item: Picture | Pano) -> Master | None:
        """The master of an earlier run, where it shows the same: only tone and file differ, and nothing is drawn again."""
        if not item.shot.keep_master or self.out is None:
            return None
        path = master_path(self.out, item.file)
        if not path.is_file() or exr_key(path) != master_key(self.project, item):
            return None
        return read_master(path)

    def master(self, item: Picture, told: Progress) -> Master:
        """The picture before exposure and tone, rounded as its file would be: kept or not, what is developed from it is the same."""
        if self.traced(item.shot):
            if self.elsewhere is not None:
                elsewhere = self.elsewhere.traced(item, 0, told)
                if elsewhere is not None:
                    return as_kept(elsewhere)
            return as_kept(self.trace(FlatSights(item.view(), self._lens(item.camera)), item, told))
        if self.elsewhere is not None:
            put_together = self.elsewhere.drawn(item, told)
            if put_together is not None:
                return as_kept(put_together)
        made = self.renderer.master(*self._drawing_of(item, told))
        if made is None:
            raise Cancelled
        return as_kept(made)

    def tile(self, item: Picture, number: int, told: Progress) -> tuple[Floats32, Floats32]:
        """One of the tiles of a still's master: light (h, w, 3) and coverage (h, w).  Raises UserError or Cancelled."""
        made = self.renderer.tile(number, *self._drawing_of(item, told))
        if made is None:
            raise Cancelled
        return made

    def _drawing_of(
        self, item: Picture, told: Progress
    ) -> tuple[View, Sky, Quality, bool, Progress, Staging, float, Drawn]:
        """What the renderer is told of a still."""
        return (
            item.view(),
            self.sky(self.light_of(item), told),
            self._quality(item.shot),
            item.camera.inside,
            told,
            self._staging(item),
            item.camera.ev,
            _drawn(item.shot),
        )

    def finished(self, item: Picture, master: Master, shown: Floats32, labels: Labels) -> bytes:
        """A developed picture before its background, as its file."""
        shot, alpha = item.shot, master.alpha
        if shot.file == "exr":
            return picture_bytes("exr", shown, alpha, labels, master.light)
        if alpha is None:
            return picture_bytes(shot.file, shown, None, labels)
        if shot.background == TRANSPARENT:
            return picture_bytes(shot.file, *self._on_ground(item, shown, alpha), labels)
        return picture_bytes(
            shot.file,
            over(shown, alpha, self.behind(item.view(), shot, item.camera.ev, self.light_of(item))),
            None,
            labels,
        )

    def _on_ground(self, item: Picture, shown: Floats32, alpha: Floats32) -> tuple[Floats32, Floats32]:
        """A transparent picture on the ground that was set for it: displayed values and coverage."""
        if item.shot.ground == AS_BEHIND:
            return shown, alpha
        covered = alpha + (1.0 - alpha) * below_horizon(item.view())
        ground = colour_of(ground_colour(item.shot))
        mixed = (shown * alpha[..., None] + ground * (covered - alpha)[..., None]) / np.maximum(
            covered, np.float32(1e-6)
        )[..., None]
        return mixed.astype(np.float32), covered.astype(np.float32)

    def _drawing_bytes(self, item: Picture, shown: Floats32, ink: Floats32, labels: Labels) -> bytes:
        """A drawing; transparent, the ink alone is there."""
        shot = item.shot
        if shot.file == "exr":
            return picture_bytes("exr", shown, None, labels, decoded(shown))
        if shot.background == TRANSPARENT:
            inked = np.broadcast_to(colour_of(shot.style.ink), (*ink.shape, 3)).astype(np.float32)
            return picture_bytes(shot.file, inked, ink, labels)
        return picture_bytes(shot.file, shown, None, labels)

    def behind(self, view: View, shot: Shot, ev: float, light: Light, sky: Sky | None = None) -> Floats32:
        """What stands behind a picture drawn without a sky, displayed values: sky, paper, a colour or a picture fitted to
        the horizon; below the horizon the ground, where it is set apart.  light : the picture's; sky : its sky, where that is known."""
        high, wide = view.height_px, view.width_px
        if shot.background == SKY:
            made = self._developed(shot, sky_light(view, sky or self.sky(light, lambda _: True)), ev)
        elif shot.background == PICTURE:
            made = self._picture_behind(view, shot)
        else:
            colour = PAPER_WHITE if shot.background == PAPER else shot.background_colour
            made = np.broadcast_to(colour_of(colour), (high, wide, 3)).astype(np.float32)
        if shot.ground == AS_BEHIND:
            return made
        share = below_horizon(view)[..., None]
        mixed: Floats32 = (made + (colour_of(ground_colour(shot)) - made) * share).astype(np.float32)
        return mixed

    def _picture_behind(self, view: View, shot: Shot) -> Floats32:
        """A picture as wide as the frame, its middle row on the horizon; its edge rows go on above and below."""
        path = beside(self.base, shot.background_file, "background picture")
        wide, high = view.width_px, view.height_px
        try:
            with opened_picture(path) as image:
                if max(image.size) > LARGEST_PICTURE:
                    raise UserError(
                        f"{path.name} is larger than {LARGEST_PICTURE} px a side. Make it smaller."
                    )
                whole = image.convert("RGB")
                tall = max(1, round(whole.height * wide / whole.width))
                pixels = np.asarray(whole.resize((wide, tall), Image.Resampling.LANCZOS), np.float32) / 255.0
        except (OSError, Image.DecompressionBombError, ValueError) as error:
            raise UserError(f"{path.name} cannot be read as a picture. Choose another background.") from error
        rows = np.clip(np.arange(high) - round(horizon_row(view)) + tall // 2, 0, tall - 1)
        return pixels[rows]

    # ------------------------------------------------------------------ panoramas

    def panorama(self, item: Pano, told: Progress) -> tuple[bytes, dict[str, bytes], bytes | None]:
        """The bytes of a panorama's file, of its six faces by name, and of its master, where they are wanted."""
        shot, camera = item.shot, item.camera
        squares: dict[str, bytes] = {}
        # The faces do not lie in the master.
        master = None if shot.faces else self._kept_master(item)
        whole = self.elsewhere.whole(item, told) if self.elsewhere is not None and master is None else None
        if whole is not None:
            return whole.data, whole.squares, whole.master
        if master is None:
            master, squares = self._drawn_round(item, told)
            master = as_kept(master)
        shown = self._developed(shot, master.light, camera.ev, around=True)
        tags = PanoramaTags(item.width_px, item.height_px, item.front_deg, stereo=shot.stereo_m > 0.0)
        xmp = xmp_packet(camera.name, camera_json(self.project, item), tags)
        data = picture_bytes(shot.file, shown, None, Labels(camera.name, 0.0, xmp), master.light)
        if not shot.keep_master or shot.file == "exr":
            return data, squares, None
        key = master_key(self.project, item)
        return data, squares, exr_bytes(master.light, camera.name, None, xmp.decode(), key)

    def _drawn_round(self, item: Pano, told: Progress) -> tuple[Master, dict[str, bytes]]:
        """Light all round, for both eyes one above the other where wanted, and the bytes of its faces."""
        shot, camera = item.shot, item.camera
        place = Place(camera.eye, item.front_deg)
        eyes = item.eyes
        pictures: list[Floats32] = []
        squares: dict[str, bytes] = {}
        traced = self.traced(shot)
        for number, aside in enumerate(eyes):

            def part(share: float, number: int = number) -> bool:
                return told((number + share) / len(eyes))

            if traced:
                put_together = (
                    self.elsewhere.traced(item, number, part) if self.elsewhere is not None else None
                )
                if put_together is None:
                    put_together = self.trace(self._round_sights(item, aside), item, part)
                pictures.append(put_together.light)
                if not shot.faces or number:
                    continue
                faces = self._traced_faces(item, place, part)
            else:
                light, faces = self._round(item, place, aside, part)
                pictures.append(light)
            if shot.faces and number == 0:
                for name, pixels in faces.items():
                    shown = self._developed(
                        shot, square_of(pixels, face_size(item.width_px)), camera.ev, around=True
                    )
                    squares[name] = picture_bytes(
                        shot.file, shown, None, Labels(f"{camera.name}, {name}"), pixels
                    )
        return Master(pictures[0] if len(pictures) == 1 else np.concatenate(pictures)), squares

    @staticmethod
    def _round_sights(item: Pano, aside_m: float) -> RoundSights:
        size = (item.width_px, item.height_px)
        return RoundSights(item.camera.eye, item.front_deg, size, aside_m)

    def _round(
        self, item: Pano, place: Place, aside_m: float, told: Progress
    ) -> tuple[Floats32, dict[str, Floats32]]:
        """Light all round a place, and the faces it comes from."""
        side = face_size(item.width_px)
        if aside_m:
            return self._stereo(item, place, aside_m, told), {}
        faces: dict[str, Floats32] = {}
        for number, name in enumerate(FACES):

            def part(share: float, number: int = number) -> bool:
                return told(0.85 * (number + share) / len(FACES))

            if self.elsewhere is not None:
                faces[name] = self.elsewhere.face(item, name, part)
            else:
                faces[name] = self.face(item, name, part)
        light = stitched(
            faces, place, side, (item.width_px, item.height_px), lambda share: told(0.85 + 0.15 * share)
        )
        if light is None:
            raise Cancelled
        return light, faces

    def face(self, item: Pano, name: str, told: Progress) -> Floats32:
        """Light of one face of a panorama, square with its margins.  Raises UserError or Cancelled."""
        made = self.renderer.master(
            face_view(Place(item.camera.eye, item.front_deg), name, face_size(item.width_px)),
            self.sky(self.light_of(item), told),
            self._quality(item.shot),
            item.camera.inside,
            told,
            self._staging(item),
            item.camera.ev,
            Drawn(item.shot.rendition == WHITE_CARD),
        )
        if made is None:
            raise Cancelled
        return made.light

    def _stereo(self, item: Pano, place: Place, aside_m: float, told: Progress) -> Floats32:
        """What one eye sees all round when the head turns: upright slices, each with the eye aside of its own direction.

        Towards straight up and down, where no head turns so, both eyes come together.
        """
        size = (item.width_px, item.height_px)
        made = np.zeros((size[1], size[0], 3), np.float32)
        slices = slices_of(place, aside_m, size)
        for number, piece in enumerate(slices):

            def part(share: float, number: int = number) -> bool:
                return told((number + share) / len(slices))

            if self.elsewhere is not None:
                light = self.elsewhere.slice(item, aside_m, number, part)
            else:
                light = self.slice(item, piece, part)
            piece.add(made, light, place.heading_deg)
        return made

    def slice(self, item: Pano, piece: Slice, told: Progress) -> Floats32:
        """Light of one slice of a panorama for two eyes, at its own size.  Raises UserError or Cancelled."""
        if not told(0.0):
            raise Cancelled
        passes = self._quality(item.shot).passes
        finer = 1 if passes < FEW_PASSES else 2 if passes < MANY_PASSES else 3
        high, wide = piece.view.height_px, piece.view.width_px
        view = replace(piece.view, width_px=wide * finer, height_px=high * finer)
        sky, drawn = self.sky(self.light_of(item), told), Drawn(item.shot.rendition == WHITE_CARD)
        master = self.renderer.master(
            view, sky, STEREO, item.camera.inside, None, self._staging(item), item.camera.ev, drawn
        )
        assert master is not None
        light: Floats32 = master.light.reshape(high, finer, wide, finer, 3).mean(axis=(1, 3))
        return light

    # ------------------------------------------------------------------ film frames

    def special(self, shot: Shot) -> bool:
        """Whether a film of this row is drawn otherwise than the Frame shows it."""
        return (
            shot.rendition != MATERIALS
            or shot.background != SKY
            or shot.ground != AS_BEHIND
            or self.tone_of(shot) != NO_TONE
            or self.traced(shot, film=True)
        )

    def film_frame(
        self, item: Film, view: View, ev: float, sky: Sky, staging: Staging, light: Light
    ) -> Pixels:
        """One film frame in the row's own way: (height, width, 3) uint8."""
        shot = item.shot
        assert shot is not None

        def facts(wanted: View) -> Facts:
            return self.renderer.facts(wanted, staging)

        if shot.rendition == LINES:
            shown = line_drawing(view, facts, shot.style, self.edges if shot.style.hidden else None)[0]
            return grained(shown)
        if self.traced(shot, film=True):
            return self._film_shown(
                item, view, ev, sky, light, self.traced_frame(shot, view, ev, light, staging)
            )
        quality = self._quality(shot, film=True)
        quality = replace(quality, passes=max(quality.passes, FEWEST_PASSES))
        master = self.renderer.master(view, sky, quality, ev < INSIDE_EV, None, staging, ev, _drawn(shot))
        assert master is not None
        if shot.rendition == PENCIL:
            brightness = self._developed(shot, master.light, ev, master.alpha) @ LUMINANCE
            return grained(pencil_drawing(view, facts, shot.style, self.edges, brightness)[0])
        return self._film_shown(item, view, ev, sky, light, master)

    def traced_frame(self, shot: Shot, view: View, ev: float, light: Light, staging: Staging) -> Master:
        """The master of one film frame by path tracing."""
        samples = self.samples_of(shot, film=True)
        return self.trace_light(FlatSights(view), shot, light, staging, ev, samples, lambda _: True)

    def _film_shown(
        self, item: Film, view: View, ev: float, sky: Sky, light: Light, master: Master
    ) -> Pixels:
        """A film frame's master under the row's tone, before its background."""
        shot = item.shot
        assert shot is not None
        shown = self._developed(shot, master.light, ev, master.alpha)
        if master.alpha is not None:
            shown = over(shown, master.alpha, self.behind(view, shot, ev, light, sky))
        return grained(shown)

    # ------------------------------------------------------------------ path tracing

    def traced(self, shot: Shot, film: bool = False) -> bool:
        """Whether a row's light is followed to its end."""
        return shot.rendition in (MATERIALS, WHITE_CARD) and self.samples_of(shot, film) > 0

    def samples_of(self, shot: Shot, film: bool = False) -> int:
        """Samples a pixel of a row; 0 where it is drawn in passes."""
        making = self.project.qualities.of(shot.quality)
        usual = making.film_samples if film else making.samples
        return (self.samples or shot.samples or usual) if usual else 0

    def _lens(self, camera: Camera) -> Aperture | None:
        """The open lens of a camera whose depth of field is on."""
        if not camera.blur:
            return None
        return aperture(camera.focal_mm, camera.f_number, camera.focus_m or camera.aim_m)

    def trace(self, sights: Sights, item: Picture | Pano, told: Progress) -> Master:
        """The master of a row by path tracing."""
        return self.trace_light(
            sights,
            item.shot,
            self.light_of(item),
            self._staging(item),
            item.camera.ev,
            self.samples_of(item.shot),
            told,
        )

    def trace_light(
        self,
        sights: Sights,
        shot: Shot,
        light: Light,
        staging: Staging,
        ev: float,
        samples: int,
        told: Progress,
    ) -> Master:
        """Light along sights, as a master.  Raises UserError or Cancelled."""
        usual = samples
        order = self._order(sights, shot, light, staging, ev, samples)
        try:
            found = self._tracer().trace(order, told)
        except (Cancelled, UserError, RuntimeError):
            self.close()
            raise
        self._albedo = found.albedo
        self.renderer.views_drawn += 1
        self.other_samples |= found.samples != usual
        return Master(found.light, None if _drawn(shot).sky else found.cover)

    def _tracer(self) -> Tracing:
        if self._tracing is None:
            self._tracing = Tracing(self.models_of or self.project, self.base, self.job)
        return self._tracing

    def _order(
        self, sights: Sights, shot: Shot, light: Light, staging: Staging, ev: float, samples: int
    ) -> TracePicture:
        minutes = self.minutes or shot.minutes
        if minutes:
            # Time alone decides then.
            samples = max(samples, MOST_SAMPLES)
        clean = shot.until_clean and not minutes and not self.samples
        if clean:
            samples = MOST_CLEAN_SAMPLES
        drawn = _drawn(shot)
        order = TracePicture(
            sights, light, staging, ev, samples, minutes * 60.0, white=drawn.white, sky_shown=drawn.sky
        )
        return replace(order, grain=CLEAN if clean else 0.0, guides=shot.passes)

    def band(self, item: Picture | Pano, eye: int, number: int, told: Progress) -> TracedBand:
        """One of the bands of a traced picture with its grain.  eye : of a panorama for two, 0 or 1.  Raises UserError or Cancelled."""
        sights: Sights
        if isinstance(item, Pano):
            sights = self._round_sights(item, item.eyes[eye])
        else:
            sights = FlatSights(item.view(), self._lens(item.camera))
        shot, samples = item.shot, self.samples_of(item.shot)
        order = self._order(sights, shot, self.light_of(item), self._staging(item), item.camera.ev, samples)
        try:
            return self._tracer().band(replace(order, band=number), told)
        except (Cancelled, UserError, RuntimeError):
            self.close()
            raise

    def _traced_faces(self, item: Pano, place: Place, told: Progress) -> dict[str, Floats32]:
        side = face_size(item.width_px)
        return {
            name: self.trace(FlatSights(face_view(place, name, side)), item, told).light for name in FACES
        }

    def close(self) -> None:
        """End what was started for the rows."""
        if self._tracing is not None:
            self._tracing.close()
            self._tracing = None

    # ------------------------------------------------------------------ what rows share

    def _quality(self, shot: Shot, film: bool = False) -> Quality:
        return quality_of(self.project.qualities.of(shot.quality), film)

    @property
    def edges(self) -> Edges:
        """The model's edges that a draughtsman would draw."""
        if self._edges is None:
            self._edges = edges_of(self.opened.model)
        return self._edges

    def _facts(self, item: Picture) -> Callable[[View], Facts]:
        staging = self._staging(item)
        return lambda view: self.renderer.facts(view, staging, panes=False)

    def _staging(self, item: Picture | Pano) -> Staging:
        made = self.lookup.staging(self.project, item.camera)
        if not item.shot.left_out:
            return made
        more = self.lookup.numbers([item.shot.left_out])
        return replace(made, omitted=tuple(sorted({*made.omitted, *more})))

    def light_of(self, item: Picture | Pano) -> Light:
        """The light of a row: the project's, with what its camera and the row itself have of their own."""
        return light_for(self.project.light, item.camera, item.shot)

    def sky(self, light: Light, told: Progress) -> Sky:
        """The sky of a light; where it is another than the project's, its soft light is put on first."""
        wanted = None if light == self.project.light else light
        if wanted != self.lit:
            soft = (
                self.soft
                if wanted is None
                else light_of(self.opened, light, lambda share: told(0.0), self.base)
            )
            if soft is not None:
                self.renderer.relight(soft.pixels)
            self.lit = wanted
        return sky_for(light, self.base)


def quality_of(making: Making, film: bool = False) -> Quality:
    """What the renderer does for the figures of a word."""
    passes = making.film_passes if film else making.passes
    return Quality(passes=passes, shadow_px=making.shadow_px, taps=2 if passes < FEW_PASSES else 4)


def _drawn(shot: Shot) -> Drawn:
    """A sky is drawn with the building where nothing else takes its place; a pencil leaves paper there."""
    return Drawn(shot.rendition == WHITE_CARD, sky_drawn(shot))


def ground_colour(shot: Shot) -> str:
    """The colour of the ground that is set apart."""
    return shot.ground_colour if shot.ground == PLAIN else PAPER_WHITE
