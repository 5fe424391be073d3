"""A model as the path tracer's scene: one mesh a material, the sky round it, sun and lamps."""

from __future__ import annotations

from dataclasses import dataclass, replace
from types import ModuleType
from typing import Any

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.distinct import distinct
from altana.core.geometry.core_of import core_of
from altana.core.geometry.one_plane import receded
from altana.core.light.glass_bodies import glass_bodies
from altana.core.light.lamps import SHINE, warm_white
from altana.core.light.panes import pane_density, pane_tint
from altana.core.light.sky import Sky
from altana.core.light.tone import decoded
from altana.core.model import GLASS, WATER, Material, Model
from altana.core.staging import Staging
from altana.render.traced.bending import ABSORBED, IOR, TINT
from altana.render.traced.following import Follower
from altana.render.traced.surfaces import PAINT, RIPPLES_M, Surfaces
from altana.render.traced.touching import drawn_in

SKY_PX = (1024, 512)
#: How many times as often as for any other light rays are sent for the sun: nothing else finds it, while
#: the sky is met by rays that go on.  Outdoors a sample has a quarter of the variance that even shares give.
SUN_SHARE = 8.0


@dataclass(slots=True)
class Scenes:
    """The scene that light is followed in, and who follows it."""

    whole: Any
    #: Changes sky and sun.
    values: Any
    #: The size of the picture of the sky, and whether there is a sun.
    sky_shape: tuple[int, ...]
    has_sun: bool
    has_panes: bool
    follower: Follower
    #: The height on which haze lies.
    ground_m: float

    def move_sun(self, towards: Any) -> None:
        """Let the sun shine by another transform (``sun_turn``)."""
        self.values["sun.to_world"] = towards
        self.values.update()

    def relit(self, mi: ModuleType, sky: Sky) -> bool:
        """Put another sky and its sun into the scene, as if it had been made with them, in a quarter of the
        time; False, and nothing changed, where it has to be made anew: a sun that rises or sets, surroundings
        of another size.  Lamps have to be the same."""
        picture = sky_picture(sky)
        if picture.shape != self.sky_shape or sun_shines(sky) != self.has_sun:
            return False
        # The plugin holds one more column on either side, so that it goes on all round.
        self.values["sky.data"] = mi.TensorXf(
            np.concatenate([picture[:, -1:], picture, picture[:, :1]], axis=1)
        )
        if self.has_sun:
            self.values["sun.irradiance.value"] = mi.Color3f(*sky.sun_lux)
            self.values["sun.to_world"] = mi.Transform4f(sun_turn(mi, np.asarray(sky.sun)))
        self.values.update()
        return True


def sun_shines(sky: Sky) -> bool:
    """Whether the sun throws light."""
    return max(sky.sun_lux) > 0.0 and sky.sun[2] > 0.0


def sky_picture(sky: Sky) -> Floats32:
    """(height, width, 3) of the sky all round: columns go by heading from north, clockwise, rows from
    straight up to straight down. Below the horizon the air goes over into ground."""
    if sky.around is not None and sky.around.lights:
        return sky.around.pixels
    wide, high = SKY_PX
    heading = (np.arange(wide) + 0.5) / wide * 2.0 * np.pi
    polar = (np.arange(high) + 0.5) / high * np.pi
    level, up = np.sin(polar)[:, None], np.cos(polar)[:, None]
    along = np.stack(
        [level * np.sin(heading), level * np.cos(heading), np.broadcast_to(up, (high, wide))], axis=-1
    ).reshape(-1, 3)
    return sky_light(sky, along).reshape(high, wide, 3)


def sky_light(sky: Sky, along: Floats) -> Floats32:
    """(n, 3) what is seen towards (n, 3) unit directions where nothing stands."""
    return sky.seen(along).astype(np.float32)


def shown_faces(model: Model, staging: Staging) -> Bools:
    """(faces,) bool: what is there for light and camera: all but what is left out, or lies beyond a far bound
    that rules the light."""
    gone = np.zeros(len(model.objects), bool)
    gone[[*staging.omitted, *staging.unlit]] = True
    kept: Bools = ~gone[model.face_objects()]
    return kept


def moved_vertices(model: Model, vertices: Floats32, staging: Staging) -> tuple[Floats32, Floats32]:
    """``vertices`` (n, 3) of a model and its normals, with what is nudged where it stands now."""
    normals = model.normals
    if staging.moved:
        vertices, normals = vertices.copy(), normals.copy()
    for item in staging.moved:
        thing, matrix = model.objects[item.index], item.array()
        used = distinct(model.faces[thing.first_face : thing.first_face + thing.face_count])
        vertices[used] = vertices[used] @ matrix[:3, :3].T.astype(np.float32) + matrix[:3, 3].astype(
            np.float32
        )
        normals[used] = normals[used] @ matrix[:3, :3].T.astype(np.float32)
    return vertices, normals


@dataclass(frozen=True, slots=True)
class _Part:
    """The triangles of one material: ``faces`` (k, 3) of the vertices used, their ``places``, ``normals``
    (n, 3) and ``uvs`` (n, 2), and what they are painted with (n, 3)."""

    faces: Ints
    places: Floats32
    normals: Floats32
    uvs: Floats32
    paint: Floats32 | None

    def turned(self, sense: Ints) -> _Part:
        """The same with the triangles turned over whose ``sense`` (k,) is -1."""
        faces = self.faces.reshape(-1, 3)
        return replace(self, faces=np.where(sense[:, None] < 0, faces[:, ::-1], faces))

    def moved(self, which: Ints, move: Floats32) -> _Part:
        """The same with some triangles (k,) moved (k, 3); their corners are theirs alone then."""
        if not len(which):
            return self
        faces = self.faces.reshape(-1, 3).copy()
        own = faces[which].ravel()
        faces[which] = len(self.places) + np.arange(len(own)).reshape(-1, 3)
        places = np.concatenate([self.places, self.places[own] + np.repeat(move, 3, axis=0)])
        normals, uvs = (np.concatenate([values, values[own]]) for values in (self.normals, self.uvs))
        paint = None if self.paint is None else np.concatenate([self.paint, self.paint[own]])
        return _Part(faces, places.astype(np.float32), normals, uvs, paint)


class SceneMaker:
    """Makes scenes of one model.  vertices : as ``receded`` has them, where that is known."""

    def __init__(
        self, mi: ModuleType, model: Model, white: bool = False, vertices: Floats32 | None = None
    ) -> None:
        self._mi, self._model, self._white = mi, model, white
        self._surfaces = Surfaces(mi, model)
        self._glass = glass_bodies(model)
        #: Of things in one plane the larger lies a little back.
        self._vertices = receded(model) if vertices is None else vertices
        self._drawn_in = drawn_in(model, self._vertices)

    def make(self, sky: Sky, staging: Staging) -> Scenes:
        """The scenes of a sky and a staging."""
        mi, model = self._mi, self._model
        kept = shown_faces(model, staging)
        vertices, normals = moved_vertices(model, self._vertices, staging)
        whole: dict[str, Any] = {"type": "scene"}
        bodies: dict[str, Any] = {"type": "scene"}
        leaves: dict[str, Any] = {"type": "scene"}
        bodies_of_glass: dict[str, Any] = {"type": "scene"}
        for number, material in enumerate(model.materials):
            chosen = kept & (model.face_material == number)
            if not chosen.any():
                continue
            used, index = np.unique(model.faces[chosen], return_inverse=True)
            paint = self._surfaces.paint(material, used)
            looks = self._surfaces.of(material, self._white, paint is not None)
            surface = mi.load_dict(looks) if isinstance(looks, dict) else looks
            places = vertices[used]
            uvs = places[:, :2] / np.float32(RIPPLES_M) if material.kind == WATER else model.uvs[used]
            part = _Part(index, places, normals[used], uvs, paint).moved(*self._moves(chosen))
            mesh = self._mesh(f"material {number}", part, surface, self._glow(material, sky))
            whole[f"m{number}"] = mesh
            if self._glass[chosen].any():
                bodies_of_glass[f"m{number}"] = self._glass_body(number, kept, vertices, normals)
            if material.kind != GLASS:
                (leaves if material.has_holes else bodies)[f"m{number}"] = mesh
        has_panes = len(whole) != len(bodies) + len(leaves) - 1
        whole.update(self._points(sky))
        picture = sky_picture(sky)
        whole["sky"] = self._sky(picture)
        if sun_shines(sky):
            whole["sun"] = {
                "type": "directional",
                "to_world": sun_turn(mi, np.asarray(sky.sun)),
                "irradiance": {"type": "rgb", "value": list(sky.sun_lux)},
                "sampling_weight": SUN_SHARE,
            }
        scene = mi.load_dict(whole)
        # What is seen through panes and between leaves: without them, where there are any.
        solid = mi.load_dict(bodies) if has_panes or len(leaves) > 1 else scene
        foliage, glass = (mi.load_dict(some) if len(some) > 1 else None for some in (leaves, bodies_of_glass))
        return Scenes(
            scene,
            mi.traverse(scene),
            picture.shape,
            "sun" in whole,
            has_panes,
            Follower(mi, scene, solid, foliage, glass, has_panes),
            core_of(model)[2],
        )

    def _moves(self, chosen: Bools) -> tuple[Ints, Floats32]:
        """Which of the chosen (m,) triangles, by their number among them, are moved, and by how much."""
        which, move = self._drawn_in
        mine = chosen[which]
        return np.cumsum(chosen)[which[mine]] - 1, move[mine]

    def _glass_body(self, number: int, kept: Bools, vertices: Floats32, normals: Floats32) -> Any:
        """The bodies of solid glass of a material as one mesh, its triangles facing outward."""
        model = self._model
        chosen = kept & (model.face_material == number) & (self._glass != 0)
        used, index = np.unique(model.faces[chosen], return_inverse=True)
        part = _Part(index, vertices[used], normals[used], model.uvs[used], None).turned(self._glass[chosen])
        mesh = self._mesh(f"glass {number}", part, self._mi.load_dict({"type": "diffuse"}), None)
        material = model.materials[number]
        # Where the file says what a body takes on the way, its colour is that.
        colour = np.ones(3, np.float32)
        if not any(material.absorbed):
            colour = decoded(np.array(material.colour[:3], np.float32))
        tint = pane_tint(colour, material.colour[3]) * (1.0 - pane_density(material.colour[3]))
        for name, values in ((IOR, [material.ior]), (ABSORBED, material.absorbed), (TINT, tint.tolist())):
            mesh.add_attribute(name, len(values), np.tile(np.array(values, np.float32), len(used)))
        return mesh

    def _glow(self, material: Material, sky: Sky) -> Any:
        """What a material throws by itself; on white card only lamps do."""
        share = sky.lamps if material.lamp else 1.0
        if not share or (self._white and not material.lamp):
            return None
        return self._surfaces.glow(material, SHINE * share)

    def _points(self, sky: Sky) -> dict[str, Any]:
        """The light sources of the file that are no things, while lamps are on."""
        points: dict[str, Any] = {}
        for number, lamp in enumerate(self._model.lamps if sky.lamps > 0.0 else ()):
            strength = (warm_white(lamp.kelvin) * lamp.candela * sky.lamps).tolist()
            intensity = {"type": "rgb", "value": strength}
            if lamp.direction is None:
                points[f"lamp{number}"] = {
                    "type": "point",
                    "position": list(lamp.place),
                    "intensity": intensity,
                }
                continue
            aim = (np.asarray(lamp.place) + np.asarray(lamp.direction)).tolist()
            aside = [1.0, 0.0, 0.0] if abs(lamp.direction[0]) < 0.9 else [0.0, 1.0, 0.0]
            turn = self._mi.ScalarTransform4f().look_at(list(lamp.place), aim, aside)
            points[f"lamp{number}"] = {
                "type": "spot", "to_world": turn, "intensity": intensity,
                "cutoff_angle": lamp.cone_deg / 2.0, "beam_width": lamp.cone_deg * 0.4,
            }  # fmt: skip
        return points

    def _sky(self, picture: Floats32) -> dict[str, Any]:
        mi = self._mi
        # The plugin's up is Y, and its first column lies towards -Z: a quarter turn brings them to Z and to
        # north.
        turn = mi.ScalarTransform4f().rotate([1, 0, 0], 90)
        return {"type": "envmap", "bitmap": mi.Bitmap(np.array(picture, copy=True)), "to_world": turn}

    def _mesh(self, name: str, part: _Part, surface: Any, glow: dict[str, Any] | None) -> Any:
        mi = self._mi
        properties = mi.Properties()
        properties["surface"] = surface
        if glow is not None:
            properties["emitter"] = mi.load_dict({"type": "area", "radiance": glow})
        faces = part.faces.reshape(-1, 3)
        mesh = mi.Mesh(
            name, len(part.places), len(faces), properties, has_vertex_normals=True, has_vertex_texcoords=True
        )
        if part.paint is not None:
            mesh.add_attribute(PAINT, 3, np.ascontiguousarray(part.paint, np.float32).ravel())
        values = mi.traverse(mesh)
        values["vertex_positions"] = np.ascontiguousarray(part.places, np.float32).ravel()
        values["vertex_normals"] = np.ascontiguousarray(part.normals, np.float32).ravel()
        values["vertex_texcoords"] = np.ascontiguousarray(part.uvs, np.float32).ravel()
        values["faces"] = faces.astype(np.uint32).ravel()
        values.update()
        return mesh


def sun_turn(mi: ModuleType, sun: Floats) -> Any:
    """The transform that lets a directional light shine from a unit vector towards the sun."""
    down = (-sun).tolist()
    aside = [1.0, 0.0, 0.0] if abs(sun[0]) < 0.9 else [0.0, 1.0, 0.0]
    return mi.ScalarTransform4f().look_at([0.0, 0.0, 0.0], down, aside)
