"""Passes for compositing: one OpenEXR file of many layers beside a still.

Layers: light (R, G, B and A where the picture has no sky; linear, cd/m2), ``albedo``, ``normal`` (X, Y, Z in
the world), ``depth.Z`` (metres along the view, at the middle of each pixel), and which objects and materials
cover each pixel, by name, as the published Cryptomatte specification 1.2 lays them down: pairs of a name's
hash and its share of the pixel, the largest first.
"""

from __future__ import annotations

import json
import tempfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

import mmh3
import numpy as np
import numpy.typing as npt
import OpenEXR

from altana.core.camera.view import View, part_of
from altana.core.conventions import Floats32
from altana.core.distinct import distinct
from altana.core.light.transport import Cancelled
from altana.core.model import Model
from altana.core.progress import Progress
from altana.render.outputs import Facts

#: Samples across a pixel each way for coverage, and names kept for a pixel: two a layer.
ACROSS, RANKS = 4, 6
#: Rows of pixels looked at together.
BAND = 64
#: What stands for nothing at a distance, in depth: no program reads infinity alike.
FAR_M = 1e10

Ids = npt.NDArray[np.int32]


@dataclass(frozen=True, slots=True)
class PixelCover:
    """What covers each pixel: ``ids`` (height, width, RANKS) numbers, -1 for none, and ``shares``
    (height, width, RANKS) float32, the largest first."""

    ids: Ids
    shares: Floats32


def coverage(ids: Ids) -> PixelCover:
    """Shares of pixels from (height, width, samples) numbers seen in them; -1 is what nothing covers."""
    high, wide, count = ids.shape
    ordered = np.sort(ids.reshape(-1, count), axis=1)
    first = np.ones_like(ordered, bool)
    first[:, 1:] = ordered[:, 1:] != ordered[:, :-1]
    row, column = np.nonzero(first)
    # How far each run of equal numbers reaches within its pixel.
    start = row * count + column
    ends = np.append(start[1:], ordered.size)
    length = ends - start
    value = ordered[row, column]
    keep = value >= 0
    row, length, value = row[keep], length[keep], value[keep]
    order = np.lexsort((value, -length, row))
    row, length, value = row[order], length[order], value[order]
    begins = np.r_[True, row[1:] != row[:-1]] if len(row) else np.zeros(0, bool)
    rank = np.arange(len(row)) - np.maximum.accumulate(np.where(begins, np.arange(len(row)), 0))
    some = rank < RANKS
    numbers, shares = np.full((high * wide, RANKS), -1, np.int32), np.zeros((high * wide, RANKS), np.float32)
    numbers[row[some], rank[some]] = value[some]
    shares[row[some], rank[some]] = length[some] / np.float32(count)
    return PixelCover(numbers.reshape(high, wide, RANKS), shares.reshape(high, wide, RANKS))


def covered_by(
    view: View, model: Model, facts: Callable[[View], Facts], progress: Progress
) -> tuple[PixelCover, PixelCover]:
    """Which objects and which materials cover the pixels of a view, from ACROSS x ACROSS samples each;
    materials called the same are one.  Raises Cancelled."""
    names = [item.name for item in model.materials]
    same = np.array([*(names.index(name) for name in names), -1], np.int32)
    wide, high = view.width_px, view.height_px
    objects: list[PixelCover] = []
    materials: list[PixelCover] = []
    for top in range(0, high, BAND):
        if not progress(top / high):
            raise Cancelled
        rows = min(BAND, high - top)
        band = part_of(view, (0.0, top / high, 1.0, (top + rows) / high))
        seen = facts(_finer(band))
        for places, into in ((seen.object_index, objects), (same[seen.material_index], materials)):
            cells = places.reshape(rows, ACROSS, wide, ACROSS).transpose(0, 2, 1, 3)
            into.append(coverage(np.ascontiguousarray(cells.reshape(rows, wide, ACROSS * ACROSS))))
    return _joined(objects), _joined(materials)


def _finer(view: View) -> View:
    return replace(view, width_px=view.width_px * ACROSS, height_px=view.height_px * ACROSS)


def _joined(bands: Sequence[PixelCover]) -> PixelCover:
    return PixelCover(
        np.concatenate([band.ids for band in bands]), np.concatenate([band.shares for band in bands])
    )


def name_hash(name: str) -> int:
    """The hash of a name as a 32-bit number whose float is neither tiny nor infinite
    (specification, "Hashing")."""
    digest = mmh3.hash(name.encode(), 0, signed=False)
    if (digest >> 23) & 255 in (0, 255):
        digest ^= 1 << 23
    return digest


def told_apart(names: Sequence[str], ids: Sequence[str]) -> list[str]:
    """Names of which no two are alike: where two things are called the same, their ids follow."""
    counts: dict[str, int] = {}
    for name in names:
        counts[name] = counts.get(name, 0) + 1
    return [name if counts[name] == 1 else f"{name} {own}" for name, own in zip(names, ids, strict=True)]


def passes_bytes(
    light: Floats32,
    alpha: Floats32 | None,
    albedo: Floats32 | None,
    facts: Facts,
    covered: tuple[PixelCover, PixelCover],
    model: Model,
) -> bytes:
    """The bytes of the file; all arrays of one size."""
    channels: dict[str, npt.NDArray[np.generic]] = {}
    lit = light if alpha is None else light * alpha[..., None]
    for name, values in zip("RGB", np.moveaxis(lit, -1, 0), strict=True):
        channels[name] = np.clip(values, 0.0, 65_000.0).astype(np.float16)
    if alpha is not None:
        channels["A"] = alpha.astype(np.float16)
    if albedo is not None:
        for name, values in zip("RGB", np.moveaxis(albedo, -1, 0), strict=True):
            channels[f"albedo.{name}"] = np.ascontiguousarray(values.astype(np.float16))
    for name, values in zip("XYZ", np.moveaxis(facts.normal, -1, 0), strict=True):
        channels[f"normal.{name}"] = np.ascontiguousarray(values.astype(np.float16))
    channels["depth.Z"] = np.where(np.isfinite(facts.depth_m), facts.depth_m, FAR_M).astype(np.float32)
    header: dict[str, object] = {
        "compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage, "whiteLuminance": 1.0,
    }  # fmt: skip
    objects = told_apart([item.name for item in model.objects], [item.id for item in model.objects])
    materials = [item.name for item in model.materials]
    for kind, names, ranks in (
        ("CryptoObject", objects, covered[0]),
        ("CryptoMaterial", materials, covered[1]),
    ):
        _add_crypto(channels, header, kind, names, ranks)
    with tempfile.TemporaryDirectory(prefix="altana-exr-") as folder:
        # The library writes to a path only.
        path = Path(folder) / "passes.exr"
        with OpenEXR.File(header, channels) as file:
            file.write(str(path))
        return path.read_bytes()


def _add_crypto(
    channels: dict[str, npt.NDArray[np.generic]],
    header: dict[str, object],
    kind: str,
    names: Sequence[str],
    covered: PixelCover,
) -> None:
    hashes = np.array([name_hash(name) for name in names] or [0], np.uint32).view(np.float32)
    floats = np.where(covered.ids >= 0, hashes[np.maximum(covered.ids, 0)], np.float32(0.0))
    for layer in range(RANKS // 2):
        for letters, values in (("RB", floats), ("GA", covered.shares)):
            for letter, rank in zip(letters, (2 * layer, 2 * layer + 1), strict=True):
                channels[f"{kind}{layer:02d}.{letter}"] = np.ascontiguousarray(values[..., rank], np.float32)
    seen = sorted(int(number) for number in distinct(covered.ids) if number >= 0)
    key = f"cryptomatte/{name_hash(kind):08x}"[: len("cryptomatte/") + 7]
    header[f"{key}/name"] = kind
    header[f"{key}/hash"] = "MurmurHash3_32"
    header[f"{key}/conversion"] = "uint32_to_float32"
    header[f"{key}/manifest"] = json.dumps(
        {names[number]: f"{name_hash(names[number]):08x}" for number in seen}
    )
