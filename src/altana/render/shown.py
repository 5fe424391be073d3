"""One model on the graphics card, staged for a picture: what is drawn as it stands, faintly, at another
place, or not at all."""

from __future__ import annotations

from typing import Any

import moderngl
import numpy as np
import numpy.typing as npt

from altana.core.camera.view import View
from altana.core.conventions import Floats, Ints
from altana.core.light.transport import LightMap
from altana.core.model import Model
from altana.core.staging import WHOLE, Staging
from altana.render.depth import NEARER
from altana.render.programs import VERTEX_SHADERS, Programs
from altana.render.shadows import Region, seen_region
from altana.render.uniforms import UNBOUNDED_M, in_map, in_sight, vertex_format
from altana.render.upload import Batches, Uploaded, set_lamps, upload


class ModelDrawer:
    """Draws the objects of a model; the context is the current one."""

    def __init__(
        self, context: moderngl.Context, programs: Programs, model: Model, light: LightMap | None
    ) -> None:
        self._context, self._programs = context, programs
        self._commands = context.buffer(reserve=20)
        self._arrays: dict[str, moderngl.VertexArray] = {}
        self._still: dict[str, npt.NDArray[np.bool_]] = {}
        #: The share of their light that lamps give now.
        self._lamps = 0.0
        self.model, self.staging = model, WHOLE
        #: How narrow an object must be for its coarser version, 0 for never, and how wide the picture is,
        #: pixels.
        self.small_px, self.wide_px = 0.0, 1.0
        self.scene = upload(context, model, light)
        programs.suit("paint" in self.scene.fields, self.scene.places is not None, self.scene.edges)

    def show(self, model: Model, light: LightMap | None) -> None:
        """Another model from now on."""
        old = self.scene
        self.scene = upload(self._context, model, light, old.textures)
        self.model, self.staging, self._still, self._lamps = model, WHOLE, {}, 0.0
        for array in self._arrays.values():
            array.release()
        self._arrays.clear()
        self._programs.suit("paint" in self.scene.fields, self.scene.places is not None, self.scene.edges)
        if self.scene.textures.arrays is old.textures.arrays:
            old.release_but_textures()
        else:
            old.release()

    def release(self) -> None:
        """Take the model off the card."""
        self.scene.release()

    def stage(self, staging: Staging) -> None:
        """Note which batches stand as they are in the model, are faint, or move."""
        if staging == self.staging and self._still:
            return
        self.staging = staging
        count = self.scene.object_count
        other, faint = np.zeros(count, bool), np.zeros(count, bool)
        other[list(staging.omitted)] = True
        other[[item.index for item in staging.moved]] = True
        faint[list(staging.faint)] = True
        for name, batches in (("solid", self.scene.solid), ("glass", self.scene.glass)):
            self._still[name] = ~other[batches.owner] & ~faint[batches.owner]
            self._still[f"{name}:faint"] = faint[batches.owner] & ~other[batches.owner]

    def burn(self, share: float) -> None:
        """Let lamps glow with a share of their light."""
        if share != self._lamps and any(item.lamp for item in self.model.materials):
            set_lamps(self.scene.materials, self.model, self.scene.textures, share)
        self._lamps = share

    def draw(
        self,
        name: str,
        kind: str,
        clip: Floats,
        far_first: View | None,
        values: dict[str, object],
        which: str = "",
        only: tuple[int, ...] | None = None,
    ) -> None:
        """Draw what may be in the picture, near things first, so that little is painted over; glass far
        first.

        kind : "solid" or "glass".  Objects that are moved for this picture are drawn at their other place.
        only : the objects to draw, where not all are meant.
        """
        batches: Batches = getattr(self.scene, kind)
        kept = self._still[which or kind]
        if only is not None:
            kept = kept & np.isin(batches.owner, only)
        bounds: Any = values.get("u_bounds", (0.0, UNBOUNDED_M))
        order, nearness = in_sight(batches, clip, far_first is not None, bounds)
        chosen = kept[order]
        order, nearness = order[chosen], nearness[chosen]
        first, count = self._detail(batches, order, nearness, clip)
        self._in_groups(name, batches, order[count > 0], first[count > 0], count[count > 0], values)
        if not which:
            self._moved(name, batches, values, only)

    def draw_plain(self, clip: Floats) -> None:
        """All triangles with a trivial shader."""
        self._programs.set("plain", u_clip=clip, u_from=(0.0, 0.0, 0.0))
        self._array("plain").render()

    def draw_shadow(self, matrix: Floats, side_px: int) -> None:
        """Depths along the sun's rays, without what is left out, and with what is moved at its other
        place."""
        self._context.depth_func = "<="
        try:
            self._draw_depths(matrix, side_px)
        finally:
            self._context.depth_func = NEARER

    def has_panes(self) -> bool:
        """Whether the model has panes."""
        return len(self.scene.glass.first) > 0

    def draw_panes(self, matrix: Floats, middle: Floats, forward: Floats) -> None:
        """What panes let through of the sun's light before what casts shadow, and where they lie along
        ``forward`` from ``middle``."""
        # Places are taken from the map's middle, which goes to its own middle.
        from_middle = matrix.copy()
        from_middle[:, 3] = matrix @ np.append(middle, 1.0)
        glass = self.scene.glass
        values = {
            "u_clip": from_middle,
            "u_eye": tuple(map(float, middle)),
            "u_forward": tuple(map(float, forward)),
            "u_materials": 0,
            "u_light_size": (1.0, 1.0),
        }
        context = self._context
        context.enable_only(moderngl.DEPTH_TEST | moderngl.BLEND)
        # What two panes leave is multiplied; of where they lie the nearest to the sun is kept.
        apart = moderngl.DST_COLOR, moderngl.ZERO, moderngl.ONE, moderngl.ONE
        context.blend_func = apart  # type: ignore[assignment]
        context.blend_equation = moderngl.FUNC_ADD, moderngl.MIN
        context.depth_func = "<="
        self.scene.materials.use(0)
        try:
            order = np.flatnonzero(self._casting("glass") & in_map(glass, matrix))
            self._in_groups("through", glass, order, glass.first[order], glass.count[order], values)
            self._moved("through", glass, values)
        finally:
            context.depth_func = NEARER
            context.blend_equation = moderngl.FUNC_ADD, moderngl.FUNC_ADD
            context.blend_func = moderngl.ONE, moderngl.ZERO

    def _casting(self, kind: str) -> npt.NDArray[np.bool_]:
        """(k,) which batches stand where they are and cast shadow."""
        batches: Batches = getattr(self.scene, kind)
        kept = self._still[kind] | self._still[f"{kind}:faint"]
        return kept & ~np.isin(batches.owner, self.staging.unlit)

    def _moved(
        self, name: str, batches: Batches, values: dict[str, object], only: tuple[int, ...] | None = None
    ) -> None:
        """Draw what stands elsewhere for this picture at its other place.  only : the objects to draw, where
        not all are meant."""
        for item in self.staging.moved:
            if only is not None and item.index not in only:
                continue
            mine = np.flatnonzero(batches.owner == item.index)
            if len(mine):
                moved = {**values, "u_move": item.array()}
                self._in_groups(
                    f"{name}:MOVED", batches, mine, batches.first[mine], batches.count[mine], moved
                )

    def _draw_depths(self, matrix: Floats, side_px: int) -> None:
        solid = self.scene.solid
        self._context.enable_only(moderngl.DEPTH_TEST)
        self.scene.materials.use(0)
        values: dict[str, object] = {
            "u_clip": matrix,
            "u_from": (0.0, 0.0, 0.0),
            "u_eye": (0.0, 0.0, 0.0),
            "u_materials": 0,
            "u_images": 1,
        }
        order = np.flatnonzero(self._casting("solid") & in_map(solid, matrix))
        first, count = solid.first[order].copy(), solid.count[order].copy()
        if solid.coarse_count.any():
            # A map's pixel is as wide everywhere, so size alone decides.
            wide = (
                np.linalg.norm(solid.high[order] - solid.low[order], axis=1)
                * float(np.linalg.norm(matrix[0, :3]))
                * side_px
                / 2.0
            )
            small = (wide < self.small_px * 2.0) & (solid.coarse_count[order] > 0)
            first[small], count[small] = solid.coarse_first[order][small], solid.coarse_count[order][small]
            count[wide < 0.7] = 0
        self._in_groups("depth", solid, order[count > 0], first[count > 0], count[count > 0], values)
        self._moved("depth", solid, values)

    def _detail(
        self, batches: Batches, order: npt.NDArray[np.intp], nearness: Floats, clip: Floats
    ) -> tuple[Ints, Ints]:
        """First index and number of indices of each batch: all of it, or its coarser version where it is
        small in the picture."""
        first, count = batches.first[order].copy(), batches.count[order].copy()
        if not self.small_px or not batches.coarse_count.any():
            return first, count
        size = np.linalg.norm(batches.high[order] - batches.low[order], axis=1)
        # The matrix's longest row across is the number of half picture widths at a metre's distance for a
        # metre.
        wide = size / np.maximum(nearness, 1e-3) * float(np.linalg.norm(clip[0, :3])) * self.wide_px / 2.0
        small = (wide < self.small_px) & (batches.coarse_count[order] > 0)
        first[small], count[small] = batches.coarse_first[order][small], batches.coarse_count[order][small]
        count[wide < self.small_px / 12.0] = 0
        return first, count

    def _in_groups(
        self,
        name: str,
        batches: Batches,
        which: npt.NDArray[np.intp],
        first: Ints,
        count: Ints,
        values: dict[str, object],
    ) -> None:
        """Draw index ranges, one call for each kind of material: with pictures of one size, with holes, or
        plain."""
        base = name.split(":")[0]
        for array in np.unique(batches.array[which]).tolist():
            for holes in (False, True):
                mine = (batches.array[which] == array) & (batches.holes[which] == holes)
                if not mine.any():
                    continue
                variant = name
                if array >= 0 and (base == "surface" or holes):
                    variant += ":HOLES" if holes else ""
                    variant += ":PICTURED"
                    self.scene.textures.arrays[array].use(1)
                if holes and base == "depth":
                    variant = variant.replace("depth", "cutout", 1)
                self._programs.set(variant, **values)
                self._indirect(variant, first[mine], count[mine], batches.place[which[mine]])

    def _indirect(self, name: str, first: Ints, count: Ints, place: Ints) -> None:
        if not len(first):
            return
        commands = np.zeros((len(first), 5), np.uint32)
        commands[:, 0] = count
        commands[:, 1] = 1
        commands[:, 2] = first
        # Which row of the places holds for all corners of an object: the graphics library's base instance.
        commands[:, 4] = place
        self._commands.orphan(max(commands.nbytes, 20))
        self._commands.write(commands.tobytes())
        self._array(name).render_indirect(self._commands, count=len(first))

    def _array(self, name: str) -> moderngl.VertexArray:
        if name not in self._arrays:
            program = self._programs.of(name)
            if VERTEX_SHADERS[name.split(":")[0]] == "depth.vert":
                content: list[Any] = [(self.scene.positions, "3f4", "in_position")]
            else:
                content = [(self.scene.vertices, *vertex_format(program, self.scene.fields))]
            if self.scene.places is not None:
                has_copies = "in_copy" in program
                names = ("in_row_x", "in_row_y", "in_row_z", *(("in_copy",) if has_copies else ()))
                content.append(
                    (self.scene.places, f"4f4 4f4 4f4 {'1u4' if has_copies else '4x1'} /i", *names)
                )
            self._arrays[name] = self._context.vertex_array(
                program, content, self.scene.indices, index_element_size=4
            )
        return self._arrays[name]


def shadow_regions(view: View, scene: Uploaded) -> tuple[Region, Region]:
    """The building, and what a view shows: the building again where that holds it."""
    building = Region(scene.centre, scene.core_radius_m + 10.0)
    if 2.0 * scene.core_radius_m > scene.reach_m:
        return building, building
    return building, seen_region(view, scene.solid.low, scene.solid.high, building)
