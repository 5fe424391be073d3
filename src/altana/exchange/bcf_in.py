"""Remarks of BCF 2.0, 2.1 and 3.0 files: each topic with its words, its comments and the camera that its
viewpoint tells.

The archive is looked through before the library reads it: sizes, names, and no document type in any XML.
"""

from __future__ import annotations

import io
import math
import zipfile
import zlib
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import Floats, Vec3, wrap_heading
from altana.core.errors import Refused, UserError
from altana.core.geometry.cross import NORTH, UP, crossed
from altana.core.project import Camera, Comment, Remark
from altana.exchange.incoming import MOST_TAKEN, REMARK, Offer, camera_of, lens_across

#: Of one file of the archive, and of all of them unpacked.
LARGEST_XML, LARGEST_PICTURE, LARGEST_WHOLE = 8_000_000, 60_000_000, 1_500_000_000
XML = (".bcf", ".bcfv", ".version", ".bcfp", ".xml")
#: A plane that lies across the view within this is a near or far bound, one upright within it a wall cut.
ACROSS_DEG = 1.0
#: The proportion of a view that tells none and has no picture.
USUAL_ASPECT = 4.0 / 3.0
LONGEST_WORDS = 4_000


def read_bcf(path: Path, offset: Vec3) -> list[Offer]:
    """Every remark of a file.  offset : metres, what the project's model has been moved by.  Raises
    UserError."""
    _look_through(path)
    # Loaded when used.
    from bcf import bcfxml

    try:
        file = bcfxml.load(path)
        topics = list(file.topics.values()) if file is not None else []
        remarks = [taken for topic in topics[:MOST_TAKEN] for taken in _remarks(topic, offset)]
    except (UserError, Refused):
        raise
    except Exception as error:
        raise UserError(f"{path.name} is damaged, or no BCF that can be read. Nothing was taken.") from error
    if not remarks:
        raise UserError(f"{path.name} holds no remark. Nothing was taken.")
    return remarks


def _look_through(path: Path) -> None:
    try:
        with zipfile.ZipFile(path) as archive:
            whole = 0
            for item in archive.infolist():
                whole += item.file_size
                name = item.filename.lower()
                most = LARGEST_XML if name.endswith(XML) else LARGEST_PICTURE
                if item.file_size > most or whole > LARGEST_WHOLE:
                    raise UserError(f"{path.name} unpacks to more than a BCF holds. Nothing was taken.")
                if name.endswith(XML):
                    with archive.open(item) as part:
                        text = part.read(LARGEST_XML + 1)
                    if b"<!DOCTYPE" in text or b"<!ENTITY" in text:
                        raise UserError(
                            f"{path.name} declares entities, which no BCF does. Nothing was taken."
                        )
            if not any(item.filename == "bcf.version" for item in archive.infolist()):
                raise UserError(f"{path.name} is no BCF: it tells no version. Nothing was taken.")
    except (
        OSError,
        zipfile.BadZipFile,
        zlib.error,
        RuntimeError,
        NotImplementedError,
        EOFError,
        ValueError,
    ) as error:
        # Names that are no text and parts that cannot be unpacked end in as many ways.
        raise UserError(f"{path.name} cannot be read as a BCF. Nothing was taken.") from error


def _remarks(topic: Any, offset: Vec3) -> list[Offer]:
    markup = topic.topic
    comments = tuple(
        Comment(str(item.author or ""), str(item.date or ""), str(item.comment or "")[:LONGEST_WORDS])
        for item in topic.comments
        if item.comment
    )
    remark = Remark(
        str(markup.guid),
        str(markup.title or "Remark").strip()[:200] or "Remark",
        str(markup.description or "")[:LONGEST_WORDS],
        str(markup.creation_author or ""),
        str(markup.creation_date or ""),
        comments=comments,
    )
    views = list(topic.viewpoints.values())
    if not views:
        return [Offer(REMARK, remark.title, remark=remark, lost=(f"“{remark.title}” has no viewpoint.",))]
    # The newest viewpoint is last; a topic is one remark, and what was shown of it before stays in its file.
    return [_taken(remark, views[0], offset, len(views))]


def _taken(remark: Remark, view: Any, offset: Vec3, count: int) -> Offer:
    visualization, picture = view.visualization_info, view.snapshot or b""
    lost = [f"“{remark.title}” has {count} viewpoints; the first is taken."] if count > 1 else []
    camera: Camera | None = None
    if visualization.perspective_camera is None:
        lost.append(f"“{remark.title}” is seen in a parallel view, which no lens has; its words are taken.")
    else:
        try:
            camera, more = _camera(remark, visualization, picture, offset)
            lost += more
        except Refused as error:
            lost.append(error.sentence)
    hidden, only = _hidden(visualization)
    return Offer(REMARK, remark.title, camera, None, remark, _png(picture), tuple(hidden), only, tuple(lost))


def _vector(value: Any) -> Floats:
    return np.array([float(value.x), float(value.y), float(value.z)])


def _camera(remark: Remark, visualization: Any, picture: bytes, offset: Vec3) -> tuple[Camera, list[str]]:
    seen = visualization.perspective_camera
    eye, ahead, up = (
        _vector(item) for item in (seen.camera_view_point, seen.camera_direction, seen.camera_up_vector)
    )
    length = float(np.linalg.norm(ahead))
    if not length > 1e-9:
        raise Refused(f"“{remark.title}” looks nowhere; its words are taken.")
    ahead = ahead / length
    right = crossed(ahead, up)
    if float(np.linalg.norm(right)) < 1e-9:
        # Up along the line of sight tells nothing: level, as far as that is to be had.
        right = crossed(ahead, UP if abs(ahead[2]) < 0.999 else NORTH)
    right /= np.linalg.norm(right)
    world = np.eye(4)
    world[:3, :3] = np.stack([right, crossed(right, ahead), -ahead], axis=1)
    world[:3, 3] = eye
    aspect = float(getattr(seen, "aspect_ratio", 0.0) or 0.0) or _aspect(picture) or USUAL_ASPECT
    across = 2.0 * math.degrees(math.atan(math.tan(math.radians(float(seen.field_of_view)) / 2.0) * aspect))
    camera = camera_of(
        remark.title, world, offset, lens_across(across, aspect), intent=remark.title, note=remark.words
    )
    return _bounded(camera, visualization, offset)


def _bounded(camera: Camera, visualization: Any, offset: Vec3) -> tuple[Camera, list[str]]:
    """With the clipping planes as bounds and wall cuts, and sentences about those that are neither."""
    ahead, eye = camera.pose.forward, np.asarray(camera.eye, float)
    lost, cuts = [], list(camera.wall_cuts)
    planes = visualization.clipping_planes
    for number, plane in enumerate(planes.clipping_plane if planes is not None else ()):
        place, way = _vector(plane.location) - np.asarray(offset), _vector(plane.direction)
        length = float(np.linalg.norm(way))
        if not length > 1e-9:
            continue
        way = way / length
        depth = float((place - eye) @ ahead)
        turn = math.degrees(math.acos(max(-1.0, min(1.0, float(way @ ahead)))))
        if turn > 180.0 - ACROSS_DEG and depth > 0.0:
            camera = replace(camera, near_m=max(depth, camera.near_m or 0.0))
        elif turn < ACROSS_DEG and depth > 0.0:
            camera = replace(camera, far_m=min(depth, camera.far_m or math.inf))
        elif abs(way[2]) < math.sin(math.radians(ACROSS_DEG)):
            heading = wrap_heading(math.degrees(math.atan2(-way[0], -way[1])))
            x, y, z = place.tolist()
            cuts.append(WallCut((x, y, z), heading, name=f"plane {number + 1}"))
        else:
            lost.append(f"“{camera.name}” is cut by a plane that leans or lies level; it is not taken.")
    return replace(camera, wall_cuts=tuple(cuts)), lost


def _hidden(visualization: Any) -> tuple[list[str], bool]:
    """Objects that are not shown, or, second, whether they are the only ones that are."""
    visibility = visualization.components.visibility if visualization.components is not None else None
    if visibility is None:
        return [], False
    guids = [
        str(item.ifc_guid)
        for item in (visibility.exceptions.component if visibility.exceptions else ())
        if item.ifc_guid
    ]
    shown = True if visibility.default_visibility is None else bool(visibility.default_visibility)
    return guids, not shown and bool(guids)


def _aspect(picture: bytes) -> float:
    try:
        with Image.open(io.BytesIO(picture)) as image:
            return image.width / image.height
    except (OSError, ValueError, Image.DecompressionBombError):
        return 0.0


def _png(picture: bytes) -> bytes:
    """The snapshot as it came, where it is a picture; written anew, so that nothing else lies in it."""
    if not picture:
        return b""
    try:
        with Image.open(io.BytesIO(picture)) as image:
            if image.width * image.height > 60_000_000:
                return b""
            png = io.BytesIO()
            image.convert("RGB").save(png, "PNG")
            return png.getvalue()
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return b""
