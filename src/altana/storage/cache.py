"""What was computed once: imported models and light maps, kept by the content they came from.

A model is a folder of plain arrays with a JSON head; its arrays are mapped, not read, so that opening a large
model takes no time and all processes share one copy of it.  A light map is one uncompressed ``.npz``.
Entries are written under a temporary name and renamed, and one that cannot be read counts as missing.
"""

from __future__ import annotations

import contextlib
import hashlib
import logging
import math
import mmap
import os
import shutil
from functools import partial
from pathlib import Path
from typing import IO, Any

import msgspec
import numpy as np
import platformdirs

from altana.core.geometry.copies import MANY, Copies, copies_of, keep_copies
from altana.core.geometry.edges import Edges, edges_of, keep_edges
from altana.core.geometry.runs import Runs, keep_runs, runs_of
from altana.core.light.transport import LightMap
from altana.core.model import (
    EncodedImage,
    FoundCamera,
    Lamp,
    Linework,
    Material,
    Model,
    Place,
    Problem,
    Room,
    SceneObject,
    Storey,
)
from altana.core.project import Light
from altana.storage.file_keys import known_digest
from altana.storage.files import PART, make_folder

log = logging.getLogger(__name__)
#: An array in a file: its type, its shape, its first byte.
Laid = tuple[str, tuple[int, ...], int]
#: Raised whenever importing or light would give something else for the same file.
REVISION = 25
#: How light maps are computed; another number, and all are computed anew.
LIGHT_REVISION = 28
_ARRAYS = ("vertices", "normals", "uvs", "faces", "face_material", "colours")
_EDGES = ("figures", "points", "object_index")
_COPIES = ("of", "place")
_RUNS = ("first", "count", "owner", "low", "high")
HEAD = "head.json"
#: The folder of digests of files that have not changed.
KEYS = "keys"


def cache_folder() -> Path:
    """The folder of the cache; ALTANA_CACHE in the environment puts it elsewhere."""
    return Path(os.environ.get("ALTANA_CACHE") or platformdirs.user_cache_dir("altana"))


class _Head(msgspec.Struct):
    objects: tuple[SceneObject, ...]
    materials: tuple[Material, ...]
    image_names: tuple[str, ...]
    storeys: tuple[Storey, ...]
    rooms: tuple[Room, ...]
    problems: tuple[Problem, ...]
    offset: tuple[float, float, float]
    source: str
    unit: str
    others: list[str]
    layers: tuple[str, ...]
    cameras: tuple[FoundCamera, ...]
    lamps: tuple[Lamp, ...]
    place: Place | None
    stamp: list[tuple[str, int, int]]
    #: Bytes of each file of arrays: an entry that was cut short is not there.
    sizes: dict[str, int]
    #: How the larger arrays lie in their files, so that their heads need not be read.
    laid: dict[str, Laid] = msgspec.field(default_factory=dict)


#: Made here once: what msgspec learns of a type the first time must not be learnt by two threads at once,
#: which ends the process.
_HEAD = msgspec.json.Decoder(_Head)


def model_key(path: Path, unit_m: float = 0.0, up: str = "") -> str:
    """What a model file's entry is called: a digest of its bytes and of how it is read."""
    how = f"{REVISION}|{path.suffix.lower()}|{unit_m!r}|{up}"

    def made() -> str:
        digest = hashlib.blake2b(how.encode(), digest_size=20)
        with path.open("rb") as file:
            while block := file.read(1 << 20):
                digest.update(block)
        return digest.hexdigest()

    return known_digest(path, how, cache_folder() / KEYS, made)


def _stamp(path: Path, others: list[str]) -> list[tuple[str, int, int]]:
    stamps = []
    for name in others:
        at = path.parent / name
        stamps.append((name, at.stat().st_size, at.stat().st_mtime_ns) if at.is_file() else (name, -1, 0))
    return stamps


def _entry(key: str) -> Path:
    return cache_folder() / "models" / key


def load_model(path: Path, key: str) -> tuple[Model, list[str]] | None:
    """The kept model and the names of its other files, or None."""
    entry = _entry(key)
    try:
        head = _HEAD.decode((entry / HEAD).read_bytes())
        if head.stamp != _stamp(path, head.others) or head.sizes != _sizes(entry):
            return None
        array = partial(_mapped, entry, laid=head.laid)
        arrays = {name: array(name) for name in _ARRAYS}
        lines = Linework(array("lines"), array("line_layer"), head.layers)
        blob, ends = array("images"), array("image_ends").tolist()
        runs = Runs(*(array(f"run_{name}") for name in _RUNS))
        edges = Edges(*(array(f"edge_{name}") for name in _EDGES))
        # Only large models have them, and entries of before have none.
        known = all(f"copy_{name}.npy" in head.sizes for name in _COPIES)
        copies = Copies(*(array(f"copy_{name}") for name in _COPIES)) if known else None
        starts = [0, *ends][: len(ends)]
        images = tuple(
            EncodedImage(n, blob[a:b].tobytes())
            for n, a, b in zip(head.image_names, starts, ends, strict=True)
        )
    except Exception as error:  # noqa: BLE001 - the border of the cache: whatever an entry does, it counts as missing
        if not isinstance(error, FileNotFoundError):
            log.info("the kept model %s cannot be read: %s", key, error)
        return None
    with contextlib.suppress(OSError):
        # What is used stays when the oldest go.
        os.utime(entry)
    model = Model(
        **arrays,
        objects=head.objects,
        materials=head.materials,
        images=images,
        storeys=head.storeys,
        rooms=head.rooms,
        problems=head.problems,
        offset=head.offset,
        source=head.source,
        unit=head.unit,
        linework=lines,
        cameras=head.cameras,
        lamps=head.lamps,
        place=head.place,
    )
    keep_runs(model, runs)
    keep_edges(model, edges)
    if copies is not None:
        keep_copies(model, copies)
    return model, head.others


def _mapped(entry: Path, name: str, laid: dict[str, Laid]) -> Any:
    """An array of an entry, mapped from where it lies; what is small is read."""
    path = entry / f"{name}.npy"
    if name not in laid:
        # What holds nothing cannot be mapped.
        small = path.stat().st_size < 4096
        return np.asarray(np.load(path, mmap_mode=None if small else "r", allow_pickle=False))
    kind, shape, start = laid[name]
    with path.open("rb") as file:
        mapped = mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ)
    # The lengths of files were checked; a shape that asks for more than there is raises.
    return np.frombuffer(mapped, np.dtype(kind), math.prod(shape), start).reshape(shape)


def _lay(path: Path) -> Laid | None:
    """How an array lies in its file; None for one that is read as a whole."""
    with path.open("rb") as file:
        version = np.lib.format.read_magic(file)
        read = (
            np.lib.format.read_array_header_1_0 if version == (1, 0) else np.lib.format.read_array_header_2_0
        )
        shape, by_columns, kind = read(file)
        small = path.stat().st_size < 4096
        return None if by_columns or kind.hasobject or small else (kind.str, tuple(shape), file.tell())


def keep_model(path: Path, key: str, model: Model, others: list[str]) -> None:
    """Keep a model; a cache that cannot be written is no loss and raises nothing."""
    head = _Head(
        model.objects,
        model.materials,
        tuple(image.name for image in model.images),
        model.storeys,
        model.rooms,
        model.problems,
        model.offset,
        model.source,
        model.unit,
        others,
        model.linework.layers,
        model.cameras,
        model.lamps,
        model.place,
        _stamp(path, others),
        {},
    )
    arrays = {name: getattr(model, name) for name in _ARRAYS}
    arrays["lines"], arrays["line_layer"] = model.linework.points, model.linework.layer
    arrays["images"] = np.frombuffer(b"".join(image.data for image in model.images), np.uint8)
    arrays["image_ends"] = np.cumsum([len(image.data) for image in model.images], dtype=np.int64)
    runs = runs_of(model)
    arrays |= {f"run_{name}": getattr(runs, name) for name in _RUNS}
    arrays |= {f"edge_{name}": getattr(edges_of(model), name) for name in _EDGES}
    if len(model.faces) > MANY:
        arrays |= {f"copy_{name}": getattr(copies_of(model), name) for name in _COPIES}
    entry = _entry(key)
    temporary = entry.with_name(f"{entry.name}.{os.getpid()}.part")
    try:
        make_folder(temporary)
        for name, values in arrays.items():
            with (temporary / f"{name}.npy").open("wb") as file:
                np.save(file, values, allow_pickle=False)
                _flush(file)
        head.sizes = _sizes(temporary)
        head.laid = {name: laid for name in arrays if (laid := _lay(temporary / f"{name}.npy")) is not None}
        with (temporary / HEAD).open("wb") as file:
            file.write(msgspec.json.encode(head))
            _flush(file)
        if entry.exists():
            # Others may still have the old arrays mapped; their files live on until they let go.
            shutil.rmtree(entry, ignore_errors=True)
        os.replace(temporary, entry)
        tidy(entry)
    except Exception:  # noqa: BLE001 - the border of the cache
        # Losing a cache entry costs time only; the work itself must go on.
        shutil.rmtree(temporary, ignore_errors=True)


def _flush(file: IO[bytes]) -> None:
    """On the disk before it gets its name: an entry is whole, also after a power cut."""
    file.flush()
    os.fsync(file.fileno())


def _sizes(entry: Path) -> dict[str, int]:
    return {path.name: path.stat().st_size for path in sorted(entry.glob("*.npy"))}


def tidy(spared: Path | None = None) -> None:
    """Remove entries beyond the cache's size, the longest unused first, and unfinished ones whose writer is
    gone.  spared : stays."""
    folder, limit = cache_folder(), limit_bytes()
    entries = []
    kinds = ("models/*", "light/*", "pixels/*", f"{KEYS}/*", "lent/files/*", "lent/projects/*")
    for path in (entry for kind in kinds for entry in folder.glob(kind)):
        if path.name.endswith(PART):
            owner = path.name.split(".")[-2]
            if not (owner.isdigit() and Path(f"/proc/{owner}").exists()):
                shutil.rmtree(path, ignore_errors=True) if path.is_dir() else path.unlink(missing_ok=True)
            continue
        # Files of a project that was lent stand in two places, and count in one.
        files = [] if path.parent.name == "projects" else list(path.iterdir()) if path.is_dir() else [path]
        entries.append((path.stat().st_mtime, sum(file.stat().st_size for file in files), path))
    _let_go(entries, limit, spared)


def _let_go(entries: list[tuple[float, int, Path]], limit: float, spared: Path | None) -> None:
    """Remove the oldest of entries (seconds, bytes, where) until the rest is no larger than a limit,
    bytes."""
    total = sum(size for _, size, _ in entries)
    for _, size, path in sorted(entries):
        if total <= limit:
            return
        if path != spared:
            shutil.rmtree(path, ignore_errors=True) if path.is_dir() else path.unlink(missing_ok=True)
            total -= size


def limit_bytes() -> float:
    """How large the cache may become: ALTANA_CACHE_GB, or 20, but never more than a tenth of the disk."""
    try:
        wanted = float(os.environ.get("ALTANA_CACHE_GB", "20"))
    except ValueError:
        wanted = 20.0
    place = cache_folder()
    while not place.exists():
        place = place.parent
    return min(max(wanted, 0.1) * 1e9, 0.1 * shutil.disk_usage(place).total)


def light_file(key: str) -> Path:
    """Where a kept light map lies."""
    return cache_folder() / "light" / f"{key}.npz"


def light_key(model_keys: list[str], light: Light) -> str:
    """What a light map's entry is called."""
    text = "|".join([str(REVISION), str(LIGHT_REVISION), *model_keys, repr(light)])
    return hashlib.blake2b(text.encode(), digest_size=20).hexdigest()


def load_light(key: str) -> LightMap | None:
    """The kept light map, or None."""
    try:
        with light_file(key).open("rb") as file, np.load(file, allow_pickle=False) as data:
            return LightMap(data["pixels"].astype(np.float32), data["uv"])
    except Exception as error:  # noqa: BLE001 - the border of the cache
        if not isinstance(error, FileNotFoundError):
            log.info("the kept light %s cannot be read: %s", key, error)
        return None


def keep_light(key: str, light: LightMap) -> LightMap:
    """Keep a light map, in half precision; returns it as whoever reads it will have it, also where it could
    not be kept."""
    pixels = np.minimum(light.pixels, 60_000.0).astype(np.float16)
    _keep(light_file(key), {"pixels": pixels, "uv": light.uv})
    return LightMap(pixels.astype(np.float32), light.uv)


#: What is kept of the places that a picture shows.
PIXELS = ("offset", "normal", "material", "lux", "sheen", "known", "rounds")
#: Whoever composes rests at hundreds of pictures a day, of some MB each: no more of them are kept than this,
#: bytes, so that they do not crowd out models and light maps.
MOST_PIXELS = 1e9


def keep_pixels(key: str, arrays: dict[str, Any]) -> None:
    """Keep places that a picture shows, with their light as far as it is known; the oldest go beyond
    MOST_PIXELS."""
    entry = _pixels_file(key)
    _keep(entry, arrays)
    with contextlib.suppress(OSError):
        kept = [(path.stat(), path) for path in entry.parent.glob("*.npz")]
        _let_go([(stat.st_mtime, stat.st_size, path) for stat, path in kept], MOST_PIXELS, entry)


def load_pixels(key: str) -> dict[str, Any] | None:
    """The kept places of a picture by the names of their arrays, or None."""
    try:
        with _pixels_file(key).open("rb") as file, np.load(file, allow_pickle=False) as data:
            return {name: data[name] for name in PIXELS}
    except Exception as error:  # noqa: BLE001 - the border of the cache
        if not isinstance(error, FileNotFoundError):
            log.info("the kept light of pixels %s cannot be read: %s", key, error)
        return None


def pixels_changed(key: str) -> float:
    """When the places of a picture were kept last; 0 where none are kept."""
    try:
        return _pixels_file(key).stat().st_mtime
    except OSError:
        return 0.0


def _pixels_file(key: str) -> Path:
    return cache_folder() / "pixels" / f"{key}.npz"


def _keep(entry: Path, arrays: dict[str, Any]) -> None:
    try:
        make_folder(entry.parent)
        temporary = entry.with_suffix(f".{os.getpid()}.part")
        with temporary.open("wb") as file:
            np.savez(file, **arrays)
            _flush(file)
        os.replace(temporary, entry)
        tidy(entry)
    except Exception:  # noqa: BLE001 - the border of the cache
        # Losing a cache entry costs time only; the work itself must go on.
        return
