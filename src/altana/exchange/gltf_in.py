"""Cameras and their animations of glTF 2.0 files; what Altana put into extras is taken back as it was."""

from __future__ import annotations

import math
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import scipy

from altana.core.conventions import Floats, Vec3
from altana.core.errors import Refused, UserError
from altana.core.project import Camera
from altana.exchange.incoming import (
    CAMERA,
    MOST_FRAMES,
    MOST_TAKEN,
    Lens,
    Offer,
    camera_of,
    lens_across,
    usual_ev,
    walk_of,
)
from altana.importers.folder import ModelFolder
from altana.importers.gltf.document import Document
from altana.importers.gltf.scene import node_matrix

#: From metres with y up to metres with z up.
UP = np.array([[1.0, 0, 0, 0], [0, 0, -1.0, 0], [0, 1.0, 0, 0], [0, 0, 0, 1.0]])
Tree = dict[str, Any]
#: Where drawing begins nearer than this, it is no bound that somebody set.
NO_BOUND_M = 0.2


@dataclass(frozen=True, slots=True)
class _Channel:
    """What an animation does to a node: at these seconds its path has these values."""

    path: str
    seconds: Floats
    values: Floats
    steps: bool


def read_gltf_cameras(path: Path, offset: Vec3) -> list[Offer]:
    """Everything that a file has of cameras.  offset : metres, what the project's model has been moved by.
    Raises UserError."""
    try:
        return _found(path, offset)
    except UserError:
        raise
    except (ValueError, TypeError, KeyError, IndexError, AttributeError, OverflowError) as error:
        # Names where numbers stand, three numbers where there are four: whatever a file names wrongly.
        raise UserError(f"{path.name} is damaged and cannot be read as glTF. Nothing was taken.") from error


def _found(path: Path, offset: Vec3) -> list[Offer]:
    document = Document(path, ModelFolder(path))
    nodes, moved = document.all("nodes"), _channels(document)
    above = {int(child): number for number, node in enumerate(nodes) for child in node.get("children") or ()}
    offers: list[Offer] = []
    for number, node in enumerate(nodes):
        if "camera" in node and len(offers) < MOST_TAKEN:
            offers.append(_taken(document, nodes, number, above, moved, offset))
    return offers


def _channels(document: Document) -> dict[int, list[_Channel]]:
    channels: dict[int, list[_Channel]] = {}
    for animation in document.all("animations"):
        samplers = animation.get("samplers") or []
        for channel in animation.get("channels") or ():
            target = channel.get("target") or {}
            if target.get("path") not in ("translation", "rotation", "scale") or "node" not in target:
                continue
            sampler = samplers[int(channel["sampler"])]
            seconds = np.asarray(document.floats(sampler["input"]), float).ravel()
            values = np.asarray(document.floats(sampler["output"]), float)
            if sampler.get("interpolation") == "CUBICSPLINE":
                # In-tangent, value, out-tangent: the values are what is passed.
                values = values.reshape(len(seconds), 3, -1)[:, 1]
            channels.setdefault(int(target["node"]), []).append(
                _Channel(target["path"], seconds, values, sampler.get("interpolation") == "STEP")
            )
    return channels


def _chain(number: int, above: dict[int, int]) -> list[int]:
    """A node and those that hold it, the outermost first.  Raises Refused for a circle."""
    chain = [number]
    while chain[-1] in above:
        chain.append(above[chain[-1]])
        if len(chain) > 500:
            raise Refused("The nodes of the file hold each other in a circle. Nothing was taken.")
    return chain[::-1]


def _local(node: Tree, channels: list[_Channel], second: float) -> Floats:
    if not channels:
        return node_matrix(node)
    now = dict(node)
    now.pop("matrix", None)
    for channel in channels:
        at = float(np.clip(second, channel.seconds[0], channel.seconds[-1]))
        if channel.steps or len(channel.seconds) == 1:
            place = int(np.searchsorted(channel.seconds, at, side="right")) - 1
            now[channel.path] = channel.values[place].tolist()
        elif channel.path == "rotation":
            now[channel.path] = (
                scipy.spatial.transform.Slerp(
                    channel.seconds, scipy.spatial.transform.Rotation.from_quat(channel.values)
                )(at)
                .as_quat()
                .tolist()
            )
        else:
            now[channel.path] = [
                float(np.interp(at, channel.seconds, channel.values[:, axis])) for axis in range(3)
            ]
    return node_matrix(now)


def _taken(
    document: Document,
    nodes: list[Tree],
    number: int,
    above: dict[int, int],
    moved: dict[int, list[_Channel]],
    offset: Vec3,
) -> Offer:
    node = nodes[number]
    entry = document.one("cameras", node["camera"])
    name = str(node.get("name") or entry.get("name") or "Camera")
    raw = node.get("extras")
    extras: Tree = raw if isinstance(raw, dict) else {}
    perspective = entry.get("perspective")
    if not isinstance(perspective, dict):
        return Offer(
            CAMERA, name, lost=(f"“{name}” is a parallel view, which no lens has; it is not taken.",)
        )
    chain = _chain(number, above)
    times = sorted({float(t) for item in chain for channel in moved.get(item, ()) for t in channel.seconds})
    if len(times) > MOST_FRAMES:
        raise Refused(f"“{name}” has more than {MOST_FRAMES} keys. Nothing was taken.")
    lens = _lens(perspective, extras)
    more = _more(perspective, extras)

    def at(second: float, own: Lens) -> Camera:
        world = UP.copy()
        for item in chain:
            world = world @ _local(nodes[item], moved.get(item, []), second)
        return camera_of(name, world, offset, own, **more)

    if len(times) < 2:
        return Offer(CAMERA, name, at(times[0] if times else 0.0, lens))
    lenses = _lenses(lens, extras, len(times))
    cameras = [at(second, lenses[place]) for place, second in enumerate(times)]
    try:
        return walk_of(name, times, cameras, _rate_of(extras, times))
    except Refused as error:
        return Offer(CAMERA, name, cameras[0], lost=(error.sentence,))


def _lens(perspective: Tree, extras: Tree) -> Lens:
    aspect = float(perspective.get("aspectRatio") or 16 / 9)
    up = float(perspective.get("yfov") or 0.0)
    plain = lens_across(2.0 * math.degrees(math.atan(math.tan(up / 2.0) * aspect)), aspect)
    try:
        focal, (sensor, _) = float(extras["focal_mm"]), (float(side) for side in extras["sensor_mm"])
        wide, high = (int(side) for side in extras["size_px"])
        return Lens(focal, sensor, float(extras["rise_mm"]), float(extras["cross_mm"]), wide, high)
    except (KeyError, TypeError, ValueError):
        return plain


def _lenses(lens: Lens, extras: Tree, count: int) -> list[Lens]:
    frames = extras.get("frames")
    if not isinstance(frames, list) or len(frames) != count:
        return [lens] * count
    return [
        Lens(float(focal), lens.sensor_mm, float(rise), float(cross), lens.width_px, lens.height_px)
        for focal, rise, cross in frames
    ]


def _more(perspective: Tree, extras: Tree) -> dict[str, Any]:
    values: dict[str, Any] = {"ev": usual_ev(extras.get("ev"))}
    near, far = perspective.get("znear"), None
    if "focal_mm" in extras:
        near, far = extras.get("near_m"), extras.get("far_m")
    elif not (isinstance(near, int | float) and near > NO_BOUND_M):
        near = None
    if isinstance(near, int | float):
        values["near_m"] = float(near)
    if isinstance(far, int | float):
        values["far_m"] = float(far)
    for field in ("intent", "note"):
        if isinstance(extras.get(field), str):
            values[field] = extras[field]
    if isinstance(extras.get("focus_m"), int | float):
        values |= {
            "blur": True,
            "focus_m": float(extras["focus_m"]),
            "f_number": float(extras.get("f_number") or 8.0),
        }
    return values


def _rate_of(extras: Tree, times: list[float]) -> str:
    number = extras.get("rate")
    if isinstance(number, str) and number:
        return number
    step = float(np.median(np.diff(times)))
    rate = 1.0 / step if step > 1e-6 else 25.0
    return str(round(rate)) if abs(rate - round(rate)) < 0.01 and 1 <= rate <= 240 else "25"
