"""Path tracing in a process of its own: what runs there, and how a run asks it for pictures.

The compiler behind the path tracer can end its process; a run then says so in a sentence, and goes on with
its other rows.
"""

from __future__ import annotations

import hashlib
import time
import zipfile
from dataclasses import dataclass, replace
from pathlib import Path
from types import ModuleType

import numpy as np

from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.geometry.one_plane import receded
from altana.core.geometry.rays import RayScene
from altana.core.light.transport import Cancelled
from altana.core.picture_key import KNOWN
from altana.core.progress import Progress
from altana.core.project import Light, Project
from altana.importers.memory import free_bytes
from altana.jobs.job_files import ENOUGH_FILE
from altana.jobs.models import Opened, open_project_models
from altana.jobs.orders import Failure, ModelsOpened, OpenModels
from altana.jobs.service import Answer, Desk, Service, Task, Work
from altana.jobs.surroundings import sky_for
from altana.jobs.traced_orders import Traced, TracedBand, TracePicture, TraceProgress
from altana.render.traced.engine import start_engine
from altana.render.traced.scene import SceneMaker, Scenes
from altana.render.traced.sights import FlatSights, Sights
from altana.render.traced.tracer import Guides, Sums, Tracer, bands, denoised
from altana.render.uniforms import gain

#: Unfinished sums are written down this often.
KEEP_S = 20.0
#: With fewer samples than this nothing is said of grain.
FEWEST_CLEAN = 16
#: What final pictures take, bytes: path tracer and denoiser by themselves, each pixel, each triangle with its
#: share of the textures. Peaks measured: real house 1.39 GB at 1600 × 900 and 2.70 GB at 3200 × 1800, demo
#: 1.60 GB at 1600 × 900.
ENGINE_BYTES, A_PIXEL, A_FACE = 850_000_000, 310, 3_700
#: While nothing comes from the child it is asked whether it lives this often.
LISTEN_S = 0.2


@dataclass(slots=True)
class _LastScenes:
    """The scene that was made last, what it was made for, and the light that it has now."""

    key: tuple[object, ...]
    light: Light
    scenes: Scenes


class TracingWorker:
    """The child's side: opens models, follows light."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._opened: Opened | None = None
        self._base = Path()
        self._engine: ModuleType | None = None
        self._rays: RayScene | None = None
        self._made: _LastScenes | None = None
        #: Where the model's vertices lie in traced pictures: the same for every scene of it.
        self._vertices: Floats32 | None = None
        #: The sums of the picture before: more samples of the same go on from there.
        self._sums: tuple[str, Sums] | None = None

    def __call__(self, task: Task) -> None:
        """Do one task."""
        if isinstance(task.order, OpenModels):
            self._opened = open_project_models(task.order.project, Path(task.order.path))
            self._rays, self._made, self._sums, self._vertices = None, None, None, None
            self._base = Path(task.order.path).parent
            self._desk.answer(task, ModelsOpened(KNOWN))
        elif isinstance(task.order, TracePicture) and self._opened is not None:
            self._trace(task, task.order, self._opened)

    def _scenes(self, order: TracePicture, opened: Opened, engine: ModuleType) -> Scenes:
        key, maker = (order.light.lamps, order.staging, order.white), self._made
        if maker is not None and maker.key == key and maker.light == order.light:
            return maker.scenes
        sky = sky_for(order.light, self._base)
        # From film frame to film frame most often only the sun has moved.
        if maker is not None and maker.key == key and maker.scenes.relit(engine, sky):
            maker.light = order.light
            return maker.scenes
        # The scene before goes first: two of a large model may not fit.
        self._made = maker = None
        if self._vertices is None:
            self._vertices = receded(opened.model)
        scenes = SceneMaker(engine, opened.model, order.white, self._vertices).make(sky, order.staging)
        self._made = _LastScenes(key, order.light, scenes)
        return scenes

    def _trace(self, task: Task, order: TracePicture, opened: Opened) -> None:
        check_memory(order.sights.size, len(opened.model.faces))
        if self._engine is None:
            self._engine, fast = start_engine()
            if not fast:
                raise UserError(
                    "Final pictures need the library LLVM 19 (Debian's libllvm19), which is not installed. Nothing was written. Install it, or choose review."
                )
        sights = order.sights
        if isinstance(sights, FlatSights) and sights.view.cuts:
            if self._rays is None:
                self._rays = RayScene.of(opened.model)
            sights = replace(sights, rays=self._rays, faces=len(opened.model.faces))
        scenes = self._scenes(order, opened, self._engine)
        white = 1.0 / gain(order.ev)
        tracer = Tracer(
            self._engine, scenes, sky_for(order.light, self._base), white, order.seed, order.sky_shown
        )
        keep, key = Path(order.keep) if order.keep else None, _key_of(order)
        sums = self._sampled(
            task, order, tracer, sights, self._begun(order, keep, key) or Sums.empty(sights.size)
        )
        self._sums = key, sums
        light = sums.mean
        cover = sums.cover / np.float32(sums.samples)
        guides = tracer.guides(sights, _band(order))
        if order.band >= 0:
            rows = bands(sights.size)[order.band]
            some = slice(rows.start, rows.stop)
            reply = TracedBand(light[some], cover[some], guides.albedo[some], guides.normal[some])
            self._desk.answer(task, reply)
            return
        clean = cleaned(light, cover, guides, order.sky_shown)
        self._desk.answer(task, Traced(clean, cover, sums.samples, guides.albedo if order.guides else None))

    def _begun(self, order: TracePicture, keep: Path | None, key: str) -> Sums | None:
        """Samples that there are already, no more than are wanted."""
        sums = self._sums[1] if self._sums is not None and self._sums[0] == key else None
        kept_sums = sums or (_kept(keep, key) if keep is not None else None)
        return kept_sums if kept_sums is not None and kept_sums.samples <= order.samples else None

    def _sampled(self, task: Task, order: TracePicture, tracer: Tracer, sights: Sights, sums: Sums) -> Sums:
        """Add samples until there are enough; sums are kept on the way, and once more where the work is
        broken off."""
        started = kept_at = time.monotonic()
        keep, key = Path(order.keep) if order.keep else None, _key_of(order)
        enough = Path(order.enough) if order.enough else None
        while sums.samples < order.samples:

            def go_on(share: float) -> bool:
                return not self._desk.outdated(task)

            try:
                tracer.add(sights, sums, go_on, _band(order))
            except (EOFError, OSError):
                # Whoever asked is gone or wants no more.
                if keep is not None:
                    _keep(keep, key, sums)
                raise
            now = time.monotonic()
            self._desk.answer(task, TraceProgress(sums.samples, sums.samples / order.samples, sums.grain))
            if keep is not None and now - kept_at > KEEP_S:
                _keep(keep, key, sums)
                kept_at = time.monotonic()
            if order.seconds and now - started > order.seconds:
                break
            if order.grain and sums.samples >= FEWEST_CLEAN and sums.grain <= order.grain:
                break
            if enough is not None and enough.exists():
                break
        return sums


def _band(order: TracePicture) -> int | None:
    return order.band if order.band >= 0 else None


def cleaned(light: Floats32, cover: Floats32, guides: Guides, sky_shown: bool) -> Floats32:
    """Light (height, width, 3) without grain, and where there is no sky that of what covers a pixel alone."""
    clean = denoised(light, guides)
    if not sky_shown:
        clean = (clean / np.maximum(cover, np.float32(1e-3))[..., None]).astype(np.float32)
    return clean


def check_memory(size: tuple[int, int], faces: int) -> None:
    """Refuse a picture that this machine has no memory for, before anything is begun.  size : pixels.  Raises
    UserError."""
    needed = ENGINE_BYTES + size[0] * size[1] * A_PIXEL + faces * A_FACE
    free = free_bytes()
    if needed > free:
        raise UserError(
            f"A final picture of {size[0]} × {size[1]} px needs about {needed / 1e9:.1f} GB of memory, and {free / 1e9:.1f} GB are free. "
            "Nothing was written. Choose a smaller size or a region, or close other programs."
        )


def _key_of(order: TracePicture) -> str:
    """What sums are of: everything but how many there are to be."""
    bare = replace(order, samples=0, seconds=0.0, grain=0.0, keep="", enough="", guides=False)
    return hashlib.blake2b(repr(bare).encode(), digest_size=16).hexdigest()


def _keep(path: Path, key: str, sums: Sums) -> None:
    part = path.with_name(f".{path.name}.part")
    try:
        with part.open("wb") as file:
            np.savez(
                file,
                key=np.array(key),
                light=sums.light,
                weight=sums.weight,
                square=sums.square,
                cover=sums.cover,
                samples=np.array(sums.samples),
            )
        part.replace(path)
    except OSError:
        # What cannot be kept is traced again after a break.
        part.unlink(missing_ok=True)


def _kept(path: Path, key: str) -> Sums | None:
    try:
        with path.open("rb") as file, np.load(file, allow_pickle=False) as data:
            if str(data["key"]) != key:
                return None
            return Sums(data["light"], data["weight"], data["square"], data["cover"], int(data["samples"]))
    except (OSError, ValueError, KeyError, EOFError, zipfile.BadZipFile):
        return None


def tracing(desk: Desk) -> Work:
    """The child that traces."""
    return TracingWorker(desk)


class Tracing:
    """A run's side: one picture after the other.  ``close`` ends the child."""

    def __init__(self, project: Project, base: Path, job: Path | None = None) -> None:
        self._job = job
        self._revision = 0
        self._service = Service("altana.jobs.tracing:tracing", patience=2)
        bare = replace(project, cameras=(), walks=(), shots=(), planned=())
        self._service.send(Task("models", self._next(), 0, OpenModels(bare, str(base / "project.altana"))))

    def _next(self) -> int:
        self._revision += 1
        return self._revision

    def trace(self, order: TracePicture, progress: Progress) -> Traced:
        """Follow the light of one picture.  Raises UserError, and Cancelled where ``progress(share)`` said
        no; sums are kept then."""
        reply = self._asked(order, progress)
        assert isinstance(reply, Traced)
        return reply

    def band(self, order: TracePicture, progress: Progress) -> TracedBand:
        """Follow the light of one band of a picture.  Raises UserError, and Cancelled where
        ``progress(share)`` said no."""
        reply = self._asked(order, progress)
        assert isinstance(reply, TracedBand)
        return reply

    def _asked(self, order: TracePicture, progress: Progress) -> Traced | TracedBand:
        if self._job is not None:
            name = _key_of(order)
            # It was said of the picture before.
            (self._job / ENOUGH_FILE).unlink(missing_ok=True)
            order = replace(
                order, keep=str(self._job / f"traced-{name}.npz"), enough=str(self._job / ENOUGH_FILE)
            )
        task = Task("picture", self._next(), 0, order)
        self._service.send(task)
        share = 0.0
        while True:
            if not progress(share):
                self.close()
                raise Cancelled
            try:
                if not self._service.connection.poll(LISTEN_S):
                    continue
                answer: Answer = self._service.connection.recv()
            except (EOFError, OSError) as error:
                raise UserError(
                    "The path tracer ended before the picture was done. Nothing was written. Make the row smaller, or choose review."
                ) from error
            reply = answer.reply
            if isinstance(reply, Failure):
                if reply.trace:
                    raise RuntimeError(f"path tracing failed: {reply.trace}")
                raise UserError(reply.sentence)
            if isinstance(reply, TraceProgress):
                share = reply.share
            elif isinstance(reply, Traced | TracedBand) and answer.revision == task.revision:
                if order.keep:
                    Path(order.keep).unlink(missing_ok=True)
                return reply

    def close(self) -> None:
        """End the child."""
        self._service.close()
