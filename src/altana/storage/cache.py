"""What was computed once: imported models and light maps, kept by the content they came from.

An entry is one uncompressed ``.npz`` with a JSON head; it is written under a temporary name and renamed, and one
that cannot be read counts as missing.
"""

from __future__ import annotations

import hashlib
import json
import os
import zipfile
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
import platformdirs

from altana.core.light.transport import LightMap
from altana.core.model import EncodedImage, FoundCamera, Linework, Material, Model, Problem, Room, SceneObject, Storey
from altana.core.project import Light
from altana.storage.files import make_folder

#: Raised whenever importing or light would give something else for the same file.
REVISION = 8
_ARRAYS = ("vertices", "normals", "uvs", "faces", "face_material")


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


def model_key(path: Path, unit_m: float = 0.0, up: str = "") -> str:
    """What a model file's entry is called: a digest of its bytes and of how it is read."""
    digest = hashlib.blake2b(f"{REVISION}|{path.suffix.lower()}|{unit_m!r}|{up}".encode(), digest_size=20)
    with path.open("rb") as file:
        while block := file.read(1 << 20):
            digest.update(block)
    return digest.hexdigest()


def _stamp(path: Path, others: list[str]) -> list[list[Any]]:
    found = []
    for name in others:
        at = path.parent / name
        found.append([name, at.stat().st_size, at.stat().st_mtime_ns] if at.is_file() else [name, -1, 0])
    return found


def load_model(path: Path, key: str) -> tuple[Model, list[str]] | None:
    """The kept model and the names of its other files, or None."""
    entry = cache_folder() / "models" / f"{key}.npz"
    try:
        with entry.open("rb") as file, np.load(file, allow_pickle=False) as data:
            head = msgspec.json.decode(data["head"].tobytes(), type=_Head)
            if json.loads(data["others"].tobytes()) != _stamp(path, head.others):
                return None
            arrays = {name: data[name] for name in _ARRAYS}
            lines = Linework(data["lines"], data["line_layer"], head.layers)
            blob, ends = data["images"].tobytes(), data["image_ends"].tolist()
    except (OSError, ValueError, KeyError, zipfile.BadZipFile, msgspec.MsgspecError):
        return None
    starts = [0, *ends][: len(ends)]
    images = tuple(EncodedImage(n, blob[a:b]) for n, a, b in zip(head.image_names, starts, ends, strict=True))
    return (
        Model(
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
        ),
        head.others,
    )


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
    )
    arrays = {name: getattr(model, name) for name in _ARRAYS}
    arrays["lines"], arrays["line_layer"] = model.linework.points, model.linework.layer
    arrays["head"] = np.frombuffer(msgspec.json.encode(head), np.uint8)
    arrays["others"] = np.frombuffer(json.dumps(_stamp(path, others)).encode(), np.uint8)
    arrays["images"] = np.frombuffer(b"".join(image.data for image in model.images), np.uint8)
    arrays["image_ends"] = np.cumsum([len(image.data) for image in model.images], dtype=np.int64)
    _keep(cache_folder() / "models" / f"{key}.npz", arrays)


def light_key(model_keys: list[str], light: Light) -> str:
    """What a light map's entry is called."""
    text = "|".join([str(REVISION), *model_keys, repr(light)])
    return hashlib.blake2b(text.encode(), digest_size=20).hexdigest()


def load_light(key: str) -> LightMap | None:
    """The kept light map, or None."""
    try:
        with (cache_folder() / "light" / f"{key}.npz").open("rb") as file, np.load(file, allow_pickle=False) as data:
            return LightMap(data["pixels"].astype(np.float32), data["uv"])
    except (OSError, ValueError, KeyError, zipfile.BadZipFile):
        return None


def keep_light(key: str, light: LightMap) -> None:
    """Keep a light map, in half precision."""
    pixels = np.minimum(light.pixels, 60_000.0).astype(np.float16)
    _keep(cache_folder() / "light" / f"{key}.npz", {"pixels": pixels, "uv": light.uv})


def _keep(entry: Path, arrays: dict[str, Any]) -> None:
    try:
        make_folder(entry.parent)
        temporary = entry.with_suffix(f".{os.getpid()}.part")
        with temporary.open("wb") as file:
            np.savez(file, **arrays)
        os.replace(temporary, entry)
    except Exception:
        # Losing a cache entry costs time only; the work itself must go on.
        return
