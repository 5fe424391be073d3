"""One row of the shot list that is no film: a still drawn its own way, or a panorama; to the bytes of its file."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
from PIL import Image

from altana.core.camera.view import View
from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.geometry.drawing import FeatureEdges, feature_edges
from altana.core.light.sky import Sky, sky_of
from altana.core.light.tone import LUMINANCE, decoded, developed
from altana.core.light.transport import Cancelled, LightMap
from altana.core.project import LINES, MATERIALS, NO_TONE, PENCIL, PICTURE, SKY, TRANSPARENT, WHITE_CARD, Project, Shot
from altana.core.staging import Lookup, Staging
from altana.jobs.light import light_of
from altana.jobs.models import Opened
from altana.jobs.requests import Film, Pano, Picture, Request
from altana.render.drawing import colour_of, line_drawing, pencil_drawing
from altana.render.encode import Pixels, exr_bytes, exr_key, exr_master
from altana.render.metadata import PanoramaTags, xmp_packet
from altana.render.panorama import FACES, Place, face_size, face_view, slices_of, square_of, stitched
from altana.render.pictures import Labels, grained, picture_bytes
from altana.render.renderer import Drawn, Facts, Master, Quality, Renderer
from altana.storage.files import make_folder, write_atomically

#: Masters are means of several passes even as a proof: nothing smooths their edges afterwards.
MASTERS = {"proof": Quality(passes=3, taps=2), "review": Quality(passes=8), "final": Quality(passes=32, shadow_px=4096)}
#: Hundreds of slices share one sun that stands still; what several passes would smooth, a finer picture does.
STEREO, STEREO_FINER = Quality(taps=4), {"proof": 1, "review": 2, "final": 3}
MASTER_FOLDER = "masters"
INSIDE_EV = 12.5
LARGEST_PICTURE = 12_000
Told = Callable[[float], bool]


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
    _edges: FeatureEdges | None = None
    #: The hour whose soft light the renderer has now; None the project's.
    lit_hour: float | None = None

    # ------------------------------------------------------------------ stills

    def still(self, item: Picture, told: Told) -> tuple[bytes, bytes | None]:
        """The bytes of a still's file, and of its master where one is wanted.  Raises UserError or Cancelled."""
        shot, camera = item.shot, item.camera
        labels = Labels(camera.name, shot.dpi, xmp_packet(camera.name, camera_json(self.project, item)))
        view = item.view()
        tone = shot.tone or self.project.tone
        if shot.rendition == LINES:
            shown, ink = line_drawing(view, self._facts(item), shot.style, self.edges if shot.style.hidden else None)
            told(0.9)
            return self._drawing_bytes(item, shown, ink, labels), None
        master, key = self._kept_master(item), master_key(self.project, item)
        if master is None:
            master = self.master(item, told)
            if shot.keep_master:
                # What is developed now is what a later run reads, rounding included.
                master = Master(_as_kept(master.light), None if master.alpha is None else _as_kept(master.alpha))
        shown = developed(master.light, camera.ev, tone, master.alpha)
        if shot.rendition == PENCIL:
            brightness = shown @ LUMINANCE
            drawn, graphite = pencil_drawing(view, self._facts(item), shot.style, self.edges, brightness)
            return self._drawing_bytes(item, drawn, graphite, labels), None
        data = self.finished(item, master, shown, labels)
        keep = shot.keep_master and shot.file != "exr"
        return data, exr_bytes(master.light, camera.name, master.alpha, labels.xmp.decode(), key) if keep else None

    def _kept_master(self, item: Picture) -> Master | None:
        """The master of an earlier run, where it shows the same: only tone and file differ, and nothing is drawn again."""
        if not item.shot.keep_master or item.shot.background != SKY or self.out is None:
            return None
        path = master_path(self.out, item.file)
        if not path.is_file() or exr_key(path) != master_key(self.project, item):
            return None
        return Master(*exr_master(path))

    def master(self, item: Picture, told: Told) -> Master:
        """The picture before exposure and tone."""
        shot = item.shot
        sky, drawn = self.sky(shot.hour, told), Drawn(shot.rendition == WHITE_CARD, shot.background == SKY and shot.rendition != PENCIL)
        made = self.renderer.master(
            item.view(), sky, MASTERS[item.quality], item.camera.inside, told, self._staging(item), item.camera.ev, drawn
        )
        if made is None:
            raise Cancelled
        return made

    def finished(self, item: Picture, master: Master, shown: Floats32, labels: Labels) -> bytes:
        """A developed picture before its background, as its file."""
        shot, alpha = item.shot, master.alpha
        if shot.file == "exr":
            return picture_bytes("exr", shown, alpha, labels, master.light)
        if alpha is None:
            return picture_bytes(shot.file, shown, None, labels)
        if shot.background == TRANSPARENT:
            return picture_bytes(shot.file, shown, alpha, labels)
        behind = self.background(item)
        return picture_bytes(shot.file, over(shown, alpha, behind), None, labels)

    def _drawing_bytes(self, item: Picture, shown: Floats32, ink: Floats32, labels: Labels) -> bytes:
        """A drawing; transparent, the ink alone is there."""
        shot = item.shot
        if shot.file == "exr":
            return picture_bytes("exr", shown, None, labels, decoded(shown))
        if shot.background == TRANSPARENT:
            inked = np.broadcast_to(colour_of(shot.style.ink), (*ink.shape, 3)).astype(np.float32)
            return picture_bytes(shot.file, inked, ink, labels)
        return picture_bytes(shot.file, shown, None, labels)

    def background(self, item: Picture) -> Floats32:
        """What stands behind a picture without a sky, displayed values: a colour, or a picture fitted to the horizon."""
        shot = item.shot
        high, wide = item.view().height_px, item.view().width_px
        if shot.background == PICTURE:
            return self._picture_behind(item, wide, high)
        return np.broadcast_to(colour_of(shot.background_colour), (high, wide, 3)).astype(np.float32)

    def _picture_behind(self, item: Picture, wide: int, high: int) -> Floats32:
        """A picture as wide as the frame, its middle row on the horizon; its edge rows go on above and below."""
        path = (self.base / item.shot.background_file).resolve()
        if not item.shot.background_file or not path.is_relative_to(self.base.resolve()):
            raise UserError("The background picture does not lie in the project's folder. Copy it there, or choose another background.")
        try:
            with Image.open(path) as image:
                if max(image.size) > LARGEST_PICTURE:
                    raise UserError(f"{path.name} is larger than {LARGEST_PICTURE} px a side. Make it smaller.")
                whole = image.convert("RGB")
                tall = max(1, round(whole.height * wide / whole.width))
                pixels = np.asarray(whole.resize((wide, tall), Image.Resampling.LANCZOS), np.float32) / 255.0
        except (OSError, Image.DecompressionBombError, ValueError) as error:
            raise UserError(f"{path.name} cannot be read as a picture. Choose another background.") from error
        rows = np.clip(np.arange(high) - round(horizon_row(item.view())) + tall // 2, 0, tall - 1)
        return pixels[rows]

    # ------------------------------------------------------------------ panoramas

    def panorama(self, item: Pano, told: Told) -> tuple[bytes, dict[str, bytes]]:
        """The bytes of a panorama's file, and of its six faces by name where they are wanted."""
        shot, camera = item.shot, item.camera
        place = Place(camera.eye, camera.heading_deg)
        tone = shot.tone or self.project.tone
        eyes = [0.0] if not shot.stereo_m else [-shot.stereo_m / 2.0, shot.stereo_m / 2.0]
        pictures: list[Floats32] = []
        squares: dict[str, bytes] = {}
        for number, aside in enumerate(eyes):

            def part(share: float, number: int = number) -> bool:
                return told((number + share) / len(eyes))

            light, faces = self._round(item, place, aside, part)
            pictures.append(light)
            if shot.faces and number == 0:
                for name, pixels in faces.items():
                    shown = developed(square_of(pixels, face_size(item.width_px)), camera.ev, replace(tone, vignette=0.0))
                    squares[name] = picture_bytes(shot.file, shown, None, Labels(f"{camera.name}, {name}"), pixels)
        light = pictures[0] if len(pictures) == 1 else np.concatenate(pictures)
        shown = developed(light, camera.ev, replace(tone, vignette=0.0))
        tags = PanoramaTags(item.width_px, item.height_px, camera.heading_deg)
        labels = Labels(camera.name, 0.0, xmp_packet(camera.name, camera_json(self.project, item), tags))
        return picture_bytes(shot.file, shown, None, labels, light), squares

    def _round(self, item: Pano, place: Place, aside_m: float, told: Told) -> tuple[Floats32, dict[str, Floats32]]:
        """Light all round a place, and the faces it comes from."""
        shot, camera = item.shot, item.camera
        sky, side = self.sky(shot.hour, told), face_size(item.width_px)
        drawn = Drawn(shot.rendition == WHITE_CARD)
        if aside_m:
            return self._stereo(item, place, aside_m, sky, told), {}
        faces: dict[str, Floats32] = {}
        for number, name in enumerate(FACES):
            made = self.renderer.master(
                face_view(place, name, side),
                sky,
                MASTERS[item.quality],
                camera.inside,
                lambda share, number=number: told(0.85 * (number + share) / len(FACES)),  # type: ignore[misc]
                self._staging(item),
                camera.ev,
                drawn,
            )
            if made is None:
                raise Cancelled
            faces[name] = made.light
        light = stitched(faces, place, side, (item.width_px, item.height_px), lambda share: told(0.85 + 0.15 * share))
        if light is None:
            raise Cancelled
        return light, faces

    def _stereo(self, item: Pano, place: Place, aside_m: float, sky: Sky, told: Told) -> Floats32:
        """What one eye sees all round when the head turns: upright slices, each with the eye aside of its own direction.

        Towards straight up and down, where no head turns so, both eyes come together.
        """
        size = (item.width_px, item.height_px)
        made = np.zeros((size[1], size[0], 3), np.float32)
        slices = slices_of(place, aside_m, size)
        staging, camera = self._staging(item), item.camera
        finer = STEREO_FINER[item.quality]
        for number, piece in enumerate(slices):
            if not told(number / len(slices)):
                raise Cancelled
            drawn = Drawn(item.shot.rendition == WHITE_CARD)
            view = replace(piece.view, width_px=piece.view.width_px * finer, height_px=piece.view.height_px * finer)
            master = self.renderer.master(view, sky, STEREO, camera.inside, None, staging, camera.ev, drawn)
            assert master is not None
            high, wide = piece.view.height_px, piece.view.width_px
            piece.add(made, master.light.reshape(high, finer, wide, finer, 3).mean(axis=(1, 3)), place.heading_deg)
        return made

    # ------------------------------------------------------------------ film frames

    def special(self, shot: Shot) -> bool:
        """Whether a film of this row is drawn otherwise than the Frame shows it."""
        tone = shot.tone or self.project.tone
        return shot.rendition != MATERIALS or shot.background != SKY or tone != NO_TONE

    def film_frame(self, item: Film, view: View, ev: float, sky: Sky, staging: Staging) -> Pixels:
        """One film frame in the row's own way: (height, width, 3) uint8."""
        shot = item.shot
        assert shot is not None

        def facts(wanted: View) -> Facts:
            return self.renderer.facts(wanted, staging)

        if shot.rendition == LINES:
            shown = line_drawing(view, facts, shot.style, self.edges if shot.style.hidden else None)[0]
            return grained(shown)
        drawn = Drawn(shot.rendition == WHITE_CARD, shot.background == SKY and shot.rendition != PENCIL)
        master = self.renderer.master(view, sky, MASTERS[shot.quality], ev < INSIDE_EV, None, staging, ev, drawn)
        assert master is not None
        shown = developed(master.light, ev, shot.tone or self.project.tone, master.alpha)
        if shot.rendition == PENCIL:
            return grained(pencil_drawing(view, facts, shot.style, self.edges, shown @ LUMINANCE)[0])
        if master.alpha is not None:
            behind = np.broadcast_to(colour_of(shot.background_colour), shown.shape).astype(np.float32)
            shown = over(shown, master.alpha, behind)
        return grained(shown)

    # ------------------------------------------------------------------ what rows share

    @property
    def edges(self) -> FeatureEdges:
        """The model's edges that a draughtsman would draw."""
        if self._edges is None:
            self._edges = feature_edges(self.opened.model)
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

    def sky(self, hour: float | None, told: Told) -> Sky:
        """The sky of a row; where its sun is another than the project's, its soft light is put on first."""
        light = self.project.light if hour is None else replace(self.project.light, hour=hour)
        if hour != self.lit_hour:
            soft = self.soft if hour is None else light_of(self.opened, light, lambda share: told(0.0))
            if soft is not None:
                self.renderer.relight(soft.pixels)
            self.lit_hour = hour
        return sky_of(light)


def over(shown: Floats32, alpha: Floats32, behind: Floats32) -> Floats32:
    """A picture over a background, displayed values, as every program lays a transparent picture over another."""
    made: Floats32 = shown * alpha[..., None] + behind * (1.0 - alpha[..., None])
    return made


def horizon_row(view: View) -> float:
    """The row at which the horizon lies in the middle of a picture, pixels from the top."""
    forward = view.pose.forward
    level = np.array([forward[0], forward[1], 0.0])
    far = np.asarray(view.pose.eye) + level / max(float(np.linalg.norm(level)), 1e-9) * 1e5
    row = float(view.project(far[None])[0, 1])
    return row if np.isfinite(row) else view.height_px / 2.0


def camera_json(project: Project, item: Picture | Pano) -> str:
    """What a picture remembers: its project, its camera and how it was drawn."""
    camera: dict[str, Any] = msgspec.to_builtins(replace(item.camera, variants=(), formats=()))
    shot: dict[str, Any] = msgspec.to_builtins(item.shot)
    return json.dumps({"altana": 1, "project": project.name, "camera": camera, "shot": shot}, ensure_ascii=False)


def _as_kept(values: Floats32) -> Floats32:
    return np.clip(values, 0.0, 65_000.0).astype(np.float16).astype(np.float32)


def master_path(out: Path, file: str) -> Path:
    """Where the master of a picture lies: in a folder of its own below the delivery."""
    return out / MASTER_FOLDER / f"{Path(file).with_suffix('')}.exr"


def master_key(project: Project, item: Picture) -> str:
    """A name for everything that a master shows: all but tone, and what the file is and is called."""
    shot = replace(item.shot, tone=None, file="png", dpi=0.0, folder="", pattern="", on=True, note="", id="")
    bare = replace(project, shots=(), tone=NO_TONE, cameras=(), walks=(), planned=(), name="", author="")
    return Request(bare, (replace(item, shot=shot, file=""),)).digest()


def write_master(out: Path, file: str, data: bytes) -> Path:
    """Write the master of a picture."""
    path = master_path(out, file)
    make_folder(path.parent)
    write_atomically(path, data, "The picture is kept.")
    return path
