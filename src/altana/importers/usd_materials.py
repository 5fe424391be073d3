"""Preview materials of USD, with their pictures."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from pxr import Ar, UsdShade

from altana.core.light.tone import encoded
from altana.core.model import CLAMP, GLASS, MASK, MIRROR, OPAQUE, REPEAT, SOLID, Maps, Material, Problem
from altana.importers.finish import SOLID_FROM, kind_of, pane_roughness
from altana.importers.folder import ModelFolder
from altana.importers.pictures import encoded_has_opacity, keep_picture
from altana.importers.raw import RawModel
from altana.importers.usd_shapes import Shape

#: What has colours of its own and no material, and what has neither.
PAINTED, WHITE, PLAIN = "Painted", (1.0, 1.0, 1.0), (0.78, 0.76, 0.72)
#: What the words of textures mean; every other is the usual, the picture again.
WRAPS = {"mirror": MIRROR, "clamp": CLAMP, "black": CLAMP}


class Materials:
    """Turns the materials of one stage into ours, each once."""

    def __init__(self, raw: RawModel, folder: ModelFolder, time: Any) -> None:
        self._raw, self._folder, self._time = raw, folder, time
        self._materials: dict[str, int] = {}
        self._pictures: dict[str, int] = {}

    def of(self, bound: Any, shape: Shape) -> int:
        """The number of the material that a shape is bound to."""
        if bound:
            return self._kept(str(bound.GetPath()), lambda: self._converted(bound))
        solid = round(shape.opacity, 2)
        if solid < 1.0:
            # Glass takes one colour.
            r, g, b = PLAIN if shape.colours is None else (shape.colours[:, :3].mean(axis=0) / 255).tolist()
            colour = round(r, 2), round(g, 2), round(b, 2), solid
            return self._kept(
                f"see-through {colour}", lambda: Material("See-through", colour, kind=kind_of("", solid))
            )
        name, shade = (PAINTED, WHITE) if shape.colours is not None else ("Plain", PLAIN)
        return self._kept(name, lambda: Material(name, (*shade, 1.0)))

    def _kept(self, key: str, make: Callable[[], Material]) -> int:
        if key not in self._materials:
            material = make()
            self._materials[key] = len(self._raw.materials)
            self._raw.materials.append(material)
        return self._materials[key]

    def _converted(self, bound: Any) -> Material:
        name = str(bound.GetPrim().GetName())
        surface = bound.ComputeSurfaceSource()[0]
        if not surface or surface.GetIdAttr().Get() != "UsdPreviewSurface":
            self._raw.problems.append(
                Problem(
                    "unread-material",
                    f"The material “{name}” is of a kind that Altana does not read; a plain colour stands in.",
                )
            )
            return Material(name, (*PLAIN, 1.0))
        colour, image = self._input(surface, "diffuseColor", (0.18, 0.18, 0.18))
        solid, holes = self._input(surface, "opacity", (1.0,))
        rough, finish = self._input(surface, "roughness", (0.5,))
        metal, _ = self._input(surface, "metallic", (0.0,))
        glow, glowing = self._input(surface, "emissiveColor", (0.0, 0.0, 0.0))
        threshold, _ = self._input(surface, "opacityThreshold", (0.0,))
        ior, _ = self._input(surface, "ior", (1.5,))
        opacity = 1.0 if holes >= 0 else float(solid[0])
        cut = holes >= 0 and (holes != image or encoded_has_opacity(self._raw.images[holes].data))
        kind = kind_of(name, opacity, image >= 0)
        shown = np.ones(3) if image >= 0 else encoded(np.asarray(colour[:3], float))
        return Material(
            name,
            tuple(np.clip([*shown, opacity], 0, 1).tolist()),
            image,
            # Half is what the format has where nothing is said.
            pane_roughness(name, float(rough[0]) if rough[0] != 0.5 else None)
            if kind == GLASS
            else float(np.clip(rough[0], 0, 1))
            if finish < 0
            else 0.6,
            SOLID if cut and opacity >= SOLID_FROM else kind,
            float(np.clip(metal[0], 0, 1)),
            tuple(np.clip(np.asarray(glow[:3], float), 0, 1e4).tolist())
            if len(glow) >= 3
            else (0.0, 0.0, 0.0),
            MASK if cut else OPAQUE,
            float(threshold[0]) or 0.5,
            float(np.clip(ior[0], 1.0, 4.0)),
            Maps(
                normal=self._input(surface, "normal", (0.0,))[1],
                emission=glowing,
                opacity=holes if cut and holes != image else -1,
            ),
            wraps=self._wraps(surface),
        )

    def _wraps(self, surface: Any) -> tuple[str, str]:
        """What lies beyond the edges of the picture that says the colour."""
        shader_input = surface.GetInput("diffuseColor")
        for attribute in UsdShade.Utils.GetValueProducingAttributes(shader_input) if shader_input else ():
            source = UsdShade.Shader(attribute.GetPrim())
            if source and source.GetIdAttr().Get() == "UsdUVTexture":
                words = (source.GetInput(word) for word in ("wrapS", "wrapT"))
                u, v = (WRAPS.get(str(item.Get(self._time)) if item else "", REPEAT) for item in words)
                return u, v
        return REPEAT, REPEAT

    def _input(self, surface: Any, name: str, usual: tuple[float, ...]) -> tuple[tuple[float, ...], int]:
        """The plain value of an input, and the picture connected to it or -1."""
        shader_input = surface.GetInput(name)
        if not shader_input:
            return usual, -1
        for attribute in UsdShade.Utils.GetValueProducingAttributes(shader_input):
            source = UsdShade.Shader(attribute.GetPrim())
            if source and source.GetIdAttr().Get() == "UsdUVTexture":
                asset = source.GetInput("file").Get(self._time) if source.GetInput("file") else None
                return usual, self._picture(asset)
            value = attribute.Get(self._time)
            if value is not None:
                return (tuple(float(v) for v in value) if hasattr(value, "__len__") else (float(value),)), -1
        return usual, -1

    def _picture(self, asset: Any) -> int:
        if asset is None or not asset.path:
            return -1
        key = asset.resolvedPath or asset.path
        if key not in self._pictures:
            name = asset.path.replace("\\", "/").rsplit("/", 1)[-1]
            packed = "[" in key and Path(key.split("[")[0]).resolve().is_relative_to(self._folder.base)
            self._pictures[key] = keep_picture(
                self._raw, name, self._packed(key) if packed else self._folder.bytes_of(asset.path)
            )
        return self._pictures[key]

    @staticmethod
    def _packed(path: str) -> bytes | None:
        """The bytes of a picture within a package."""
        asset = Ar.GetResolver().OpenAsset(Ar.ResolvedPath(path))
        return bytes(asset.GetBuffer()) if asset else None
