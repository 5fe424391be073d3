"""A model ready for questions: the arrays that the window itself keeps, for quick ones (the floor under a
point, the wall beside it)."""

from __future__ import annotations

from dataclasses import dataclass, field

from altana.core.checks.cut_faces import Bodies, bodies_of
from altana.core.checks.perspective import main_axes
from altana.core.conventions import Bools, Floats, Ints32, Vec3
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sight import passed_faces
from altana.core.model import Model
from altana.core.project import Camera
from altana.core.staging import Lookup
from altana.core.standing import Footing, footing, place_stood_in, standable
from altana.core.targets import overview
from altana.core.wall_rays import WallRays, wall_rays


@dataclass(frozen=True, slots=True)
class Scene:
    """A model ready for questions: ``rays`` meets everything, ``floors`` only what one stands on; ``lookup``
    finds objects by what names them."""

    model: Model
    rays: RayScene
    floors: RayScene
    lookup: Lookup
    #: (faces,) the object each triangle belongs to.
    owner: Ints32
    #: The whole building, as the Frame shows it without a camera.
    overview: Camera
    #: (2, 3) lowest and highest corner, metres.
    bounds: Floats
    #: (faces,) bool: panes, which sight goes through.
    panes: Bools
    #: What encloses space, for telling what a bound opens.
    bodies: Bodies
    #: Main directions of the walls, degrees.
    axes: tuple[float, ...] = ()
    #: Rays that only walls stop; None where they were not made.
    walls: WallRays | None = None
    _footings: dict[Vec3, Footing] = field(default_factory=dict)

    def footing(self, eye: Vec3) -> Footing:
        """Floor, ceiling and what is wrong with a place; asked for by several views at a time, so it is
        kept."""
        known = self._footings.get(eye)
        if known is None:
            if len(self._footings) > 2000:
                self._footings.clear()
            known = self._footings[eye] = footing(self.rays, self.floors, eye)
        return known

    def floor_m(self, camera: Camera) -> float | None:
        """The height of the floor that the height of a camera's eye is told above; None over nothing."""
        return self.footing(place_stood_in(self.rays, camera)).floor_m


def prepared(model: Model, lookup: Lookup | None = None) -> Scene:
    """The model ready for questions; everything that takes time is done here, not at the first question.
    lookup : where it was made before."""
    rays, floors = RayScene.of(model), standable(model)
    for scene in (rays, floors):
        scene.warm()
    return Scene(
        model,
        rays,
        floors,
        lookup or Lookup(model),
        model.face_objects(),
        overview(model),
        model.bounds,
        passed_faces(model),
        bodies_of(model),
        main_axes(model),
        wall_rays(model, rays),
    )
