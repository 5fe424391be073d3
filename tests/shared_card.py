"""Runs of one test process that draw the same model share its place on the graphics card, as rows of one run
do."""

from __future__ import annotations

import hashlib
import importlib
import threading
import weakref
from typing import Any

import numpy as np

from altana.core.light.transport import LightMap
from altana.core.model import Model
from altana.render.renderer import Renderer

#: How many are kept: each has a model, its textures and its shadows.
MOST = 2
#: What draws in the process that asks for it.
DRAWING = (
    "altana.jobs.run",
    "altana.jobs.machines.bench",
    "altana.jobs.looking",
    "altana.jobs.gaps",
    "altana.jobs.sun_hours",
    "altana.cli.check",
    "altana.cli.camera",
)


#: What arrays hold, by their identity while they are there: reading a model through takes longer than drawing
#: a small picture of it.
_read: dict[int, tuple[weakref.ref[Any], str]] = {}


def _held(array: Any) -> str:
    known = _read.get(id(array))
    if known is None or known[0]() is not array:
        digest = hashlib.blake2b(np.ascontiguousarray(array).data, digest_size=16).hexdigest()
        known = _read[id(array)] = weakref.ref(array), digest
    return known[1]


def _said(*parts: Any) -> str:
    digest = hashlib.blake2b(digest_size=16)
    for part in parts:
        digest.update((_held(part) if isinstance(part, np.ndarray) else repr(part)).encode())
    return digest.hexdigest()


def _key(model: Model, light: LightMap | None) -> str:
    shown = (model.vertices, model.normals, model.uvs, model.faces, model.face_material, model.colours)
    lit = () if light is None else (light.uv, light.pixels)
    images = [hashlib.blake2b(image.data).hexdigest() for image in model.images]
    return _said(threading.get_ident(), *shown, model.objects, model.materials, model.bounds, images, *lit)


class KeptRenderer(Renderer):
    """Stays open for the next run."""

    def close(self) -> None:
        """Not yet."""

    def end(self) -> None:
        """Give the context back."""
        super().close()


class Card:
    """Gives out renderers of models; a run may not see which runs drew before it."""

    def __init__(self) -> None:
        self._kept: dict[str, KeptRenderer] = {}

    def renderer(self, model: Model, light: LightMap | None = None) -> Renderer:
        """A renderer as a new one would be."""
        key = _key(model, light)
        kept = self._kept.pop(key, None) or KeptRenderer(model, light)
        self._kept[key] = kept
        while len(self._kept) > MOST:
            self._kept.pop(next(iter(self._kept))).end()
        return kept

    def close(self) -> None:
        """End all of them."""
        for renderer in self._kept.values():
            renderer.end()
        self._kept.clear()


def shared() -> Card:
    """Let runs draw with shared renderers from now on."""
    card = Card()
    for name in DRAWING:
        vars(importlib.import_module(name))["Renderer"] = card.renderer
    return card
