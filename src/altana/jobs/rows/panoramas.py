"""Panoramas: light all round a place, for one eye or two, and its six faces."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from altana.core.conventions import Floats32
from altana.core.light.transport import Cancelled
from altana.core.progress import Progress
from altana.core.project import WHITE_CARD
from altana.jobs.masters import as_kept, camera_json, master_key
from altana.jobs.requests import Pano
from altana.jobs.rows.place_light import SHARE, PlaceLight
from altana.jobs.rows.shared import FEW_PASSES, Rows
from altana.jobs.rows.traced import TracedRows
from altana.render.encode import exr_bytes
from altana.render.metadata import PanoramaTags, xmp_packet
from altana.render.outputs import DrawnAs, Master
from altana.render.panorama import FACES, Place, Slice, face_size, face_view, slices_of, square_of, stitched
from altana.render.pictures import Labels, picture_bytes
from altana.render.quality import Quality
from altana.render.traced.sights import FlatSights

#: Hundreds of slices share one sun that stands still; what several passes would smooth, a finer picture does.
STEREO = Quality(taps=4)
#: With so many passes a slice is drawn three times finer.
MANY_PASSES = 32


class Panoramas:
    """Makes panoramas.  ``told(share)`` is called often; when it says False the work ends with Cancelled."""

    def __init__(self, rows: Rows, tracer: TracedRows, places: PlaceLight) -> None:
        self.rows, self.tracer, self.places = rows, tracer, places

    def panorama(self, item: Pano, progress: Progress) -> tuple[bytes, dict[str, bytes], bytes | None]:
        """The bytes of a panorama's file, of its six faces by name, and of its master, where they are
        wanted."""
        shot, camera = item.shot, item.camera
        squares: dict[str, bytes] = {}
        # The faces do not lie in the master.
        master = None if shot.faces else self.rows.kept_master(item)
        whole = (
            self.rows.elsewhere.whole(item, progress)
            if self.rows.elsewhere is not None and master is None
            else None
        )
        if whole is not None:
            return whole.data, whole.squares, whole.master
        if master is None:
            master, squares = self._drawn_round(item, progress)
            master = as_kept(master)
        shown = self.rows.developed(shot, master.light, camera.ev, around=True)
        tags = PanoramaTags(item.width_px, item.height_px, item.front_deg, stereo=shot.stereo_m > 0.0)
        xmp = xmp_packet(camera.name, camera_json(self.rows.project, item), tags)
        data = picture_bytes(shot.file, shown, None, Labels(camera.name, 0.0, xmp), master.light)
        if not shot.keep_master or shot.file == "exr":
            return data, squares, None
        key = master_key(self.rows.project, item)
        return data, squares, exr_bytes(master.light, camera.name, None, xmp.decode(), key)

    def face(self, item: Pano, name: str, progress: Progress) -> Floats32:
        """Light of one face of a panorama, square with its margins.  Raises UserError or Cancelled."""
        with self.places.shown(item, progress, name) as told:
            face = self.rows.renderer.master(
                face_view(Place(item.camera.eye, item.front_deg), name, face_size(item.width_px)),
                self.rows.sky(self.rows.light_of(item), told),
                self.rows.quality(item.shot),
                item.camera.inside,
                told,
                self.rows.staging(item),
                item.camera.ev,
                DrawnAs(item.shot.rendition == WHITE_CARD),
            )
        if face is None:
            raise Cancelled
        return face.light

    def slice(self, item: Pano, piece: Slice, progress: Progress) -> Floats32:
        """Light of one slice of a panorama for two eyes, at its own size.  Raises UserError or Cancelled."""
        if not progress(0.0):
            raise Cancelled
        passes = self.rows.quality(item.shot).passes
        finer = 1 if passes < FEW_PASSES else 2 if passes < MANY_PASSES else 3
        high, wide = piece.view.height_px, piece.view.width_px
        view = replace(piece.view, width_px=wide * finer, height_px=high * finer)
        sky, drawn = (
            self.rows.sky(self.rows.light_of(item), progress),
            DrawnAs(item.shot.rendition == WHITE_CARD),
        )
        master = self.rows.renderer.master(
            view, sky, STEREO, item.camera.inside, None, self.rows.staging(item), item.camera.ev, drawn
        )
        assert master is not None
        light: Floats32 = master.light.reshape(high, finer, wide, finer, 3).mean(axis=(1, 3))
        return light

    def _drawn_round(self, item: Pano, progress: Progress) -> tuple[Master, dict[str, bytes]]:
        """Light all round, for both eyes one above the other where wanted, and the bytes of its faces."""
        shot, camera = item.shot, item.camera
        place = Place(camera.eye, item.front_deg)
        eyes = item.eyes
        pictures: list[Floats32] = []
        squares: dict[str, bytes] = {}
        traced = self.tracer.traced(shot)
        for number, aside in enumerate(eyes):

            def part(share: float, number: int = number) -> bool:
                return progress((number + share) / len(eyes))

            if traced:
                put_together = (
                    self.rows.elsewhere.traced(item, number, part)
                    if self.rows.elsewhere is not None
                    else None
                )
                if put_together is None:
                    put_together = self.tracer.trace(self.tracer.round_sights(item, aside), item, part)
                pictures.append(put_together.light)
                if not shot.faces or number:
                    continue
                faces = self._traced_faces(item, place, part)
            else:
                light, faces = self._round(item, place, aside, part)
                pictures.append(light)
            if shot.faces and number == 0:
                for name, pixels in faces.items():
                    shown = self.rows.developed(
                        shot, square_of(pixels, face_size(item.width_px)), camera.ev, around=True
                    )
                    squares[name] = picture_bytes(
                        shot.file, shown, None, Labels(f"{camera.name}, {name}"), pixels
                    )
        return Master(pictures[0] if len(pictures) == 1 else np.concatenate(pictures)), squares

    def _round(
        self, item: Pano, place: Place, aside_m: float, progress: Progress
    ) -> tuple[Floats32, dict[str, Floats32]]:
        """Light all round a place, and the faces it comes from."""
        side = face_size(item.width_px)
        if aside_m:
            return self._stereo(item, place, aside_m, progress), {}
        faces: dict[str, Floats32] = {}
        begun = 0.0
        if self.rows.elsewhere is None and not self.places.known(item):
            begun = SHARE
            self.places.find(item, lambda share: progress(SHARE * share))

        def drawn(share: float) -> bool:
            return progress(begun + (1.0 - begun) * share)

        for number, name in enumerate(FACES):

            def part(share: float, number: int = number) -> bool:
                return drawn(0.85 * (number + share) / len(FACES))

            if self.rows.elsewhere is not None:
                faces[name] = self.rows.elsewhere.face(item, name, part)
            else:
                faces[name] = self.face(item, name, part)
        light = stitched(
            faces, place, side, (item.width_px, item.height_px), lambda share: drawn(0.85 + 0.15 * share)
        )
        if light is None:
            raise Cancelled
        return light, faces

    def _stereo(self, item: Pano, place: Place, aside_m: float, progress: Progress) -> Floats32:
        """What one eye sees all round when the head turns: upright slices, each with the eye aside of its own
        direction.

        Towards straight up and down, where no head turns so, both eyes come together.
        """
        size = (item.width_px, item.height_px)
        pair = np.zeros((size[1], size[0], 3), np.float32)
        slices = slices_of(place, aside_m, size)
        for number, piece in enumerate(slices):

            def part(share: float, number: int = number) -> bool:
                return progress((number + share) / len(slices))

            if self.rows.elsewhere is not None:
                light = self.rows.elsewhere.slice(item, aside_m, number, part)
            else:
                light = self.slice(item, piece, part)
            piece.add(pair, light, place.heading_deg)
        return pair

    def _traced_faces(self, item: Pano, place: Place, progress: Progress) -> dict[str, Floats32]:
        side = face_size(item.width_px)
        return {
            name: self.tracer.trace(FlatSights(face_view(place, name, side)), item, progress).light
            for name in FACES
        }
