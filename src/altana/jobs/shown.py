"""What was made of a shot list, as pages show it: each picture with its file and its words, and small
versions of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import numpy as np
import tifffile
from PIL import Image

from altana.core.errors import UserError
from altana.core.project import Camera, Project
from altana.jobs.requests import Film, Pano, Picture
from altana.jobs.shotlist import Row

#: The colours of all pages.
INK, PENCIL, LEAF, PAPER, GREEN = (
    (36, 33, 28),
    (101, 94, 83),
    (251, 250, 246),
    (244, 241, 234),
    (30, 123, 109),
)


@dataclass(frozen=True, slots=True)
class ClientPicture:
    """A picture for the client: its file, its row, and its words."""

    path: Path
    row: Row
    title: str
    caption: str

    @property
    def camera(self) -> Camera | None:
        """Its camera, where it has one."""
        return self.row.item.camera if isinstance(self.row.item, Picture | Pano) else None


def shown_of(project: Project, rows: Sequence[Row], out: Path) -> tuple[ClientPicture, ...]:
    """What was made of the rows that are on, in their order.  Raises UserError where nothing was."""
    shown_items = []
    for row in rows:
        path = out / row.file if row.file else None
        if path is None or not row.shot.on or not path.is_file() or path.suffix == ".exr":
            continue
        item = row.item
        if isinstance(item, Film):
            shown_items.append(ClientPicture(path, row, item.walk.name, item.walk.note))
        elif isinstance(item, Picture | Pano):
            shown_items.append(ClientPicture(path, row, item.camera.name, item.camera.intent))
    if not shown_items:
        raise UserError(
            f"Nothing of the shot list was made in {out} yet. Make it first; pages show what was made."
        )
    return tuple(shown_items)


def small(path: Path, longest: int) -> Image.Image:
    """A picture or a film's first film frame, no larger than so many pixels, on paper where it is
    transparent."""
    suffix = path.suffix.lower()
    if suffix in (".mp4", ".mov", ".webm", ".avi"):
        from altana.render.film_file import film_frame_at

        pixels = film_frame_at(path, 0.0, Fraction(25))
        if pixels is None:
            raise UserError(f"{path.name} holds no film frame.")
        image = Image.fromarray(pixels)
    elif suffix in (".tif", ".tiff"):
        whole = tifffile.imread(path)
        image = Image.fromarray(
            (whole[..., :3] >> 8).astype(np.uint8) if whole.dtype == np.uint16 else whole[..., :3]
        )
    else:
        with Image.open(path) as opened:
            opened.load()
            image = opened.copy()
    if image.mode.startswith("I"):
        image = Image.fromarray((np.asarray(image) >> 8).astype(np.uint8))
    if image.mode == "RGBA":
        ground = Image.new("RGB", image.size, LEAF)
        ground.paste(image, mask=image.getchannel("A"))
        image = ground
    image = image.convert("RGB")
    image.thumbnail((longest, longest), Image.Resampling.LANCZOS)
    return image
