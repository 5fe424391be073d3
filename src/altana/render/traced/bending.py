"""Rays through bodies of solid glass: bent where they go in and out, mirrored where they do not get out,
tinted by the way between.

Only what is looked at through a body is bent.  For light that falls through it on other things it is as panes
are: rays that are bent hardly ever meet the sun, so that its shadow would be black, and its caustics dots
that no number of samples smooths.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from types import ModuleType
from typing import Any

#: So many times a ray is bent or mirrored at such bodies; then what is left goes on straight.
MOST_BENDS = 8
#: What the meshes of bodies call the index of refraction, what is lost per metre, and the tint of each face.
IOR, ABSORBED, TINT = "vertex_ior", "vertex_absorbed", "vertex_tint"
#: A body is met where nothing else is nearer; its own faces stand in the whole scene, too.
AS_NEAR, AS_NEAR_M = 1.0 + 1e-5, 1e-5


@dataclass(frozen=True, slots=True)
class BentRays:
    """Where rays go on behind the bodies they met, what is left of their light, whether they met any, and how
    far away the first was."""

    ray: Any
    left: Any
    bent: Any
    away: Any


def through_bodies(mi: ModuleType, bodies: Any, whole: Any, ray: Any, draw: Callable[[], Any]) -> BentRays:
    """Follow rays through bodies of glass.

    bodies, whole : scenes, of the bodies alone and of everything.  draw : a number from 0 to 1 for each ray,
    by which it is mirrored or bent. The shares are Fresnel's, for light that is not polarized.
    """
    import drjit as dr

    left, bent, away = mi.Color3f(1.0), mi.Bool(False), mi.Float(0.0)
    for _ in range(MOST_BENDS):
        met = bodies.ray_intersect(ray)
        nearest = whole.ray_intersect_preliminary(ray).t
        here = met.is_valid() & (met.t <= nearest * AS_NEAR + AS_NEAR_M)
        going_in = dr.dot(ray.d, met.n) < 0.0
        # Rounded bodies have rounded normals, which at their rim may look away from where the ray comes from.
        smooth = dr.select(dr.dot(met.sh_frame.n, met.n) < 0.0, -met.sh_frame.n, met.sh_frame.n)
        sided = (dr.dot(ray.d, smooth) < 0.0) == going_in
        frame = mi.Frame3f(dr.select(sided, smooth, met.n))
        comes = frame.to_local(-ray.d)
        shape = met.shape
        ior = dr.maximum(shape.eval_attribute_1(IOR, met, here), 1.0)
        mirror, cosine, _, inverse = mi.fresnel(mi.Frame3f.cos_theta(comes), ior)
        mirrored = draw() < mirror
        goes = dr.select(mirrored, mi.reflect(comes), mi.refract(comes, cosine, inverse))
        # By the way inside, and by each face that is gone through.
        lost = shape.eval_attribute_3(ABSORBED, met, here) * dr.select(going_in, 0.0, met.t)
        tint = dr.select(mirrored, mi.Color3f(1.0), shape.eval_attribute_3(TINT, met, here))
        left = dr.select(here, left * dr.exp(-lost) * tint, left)
        away = dr.select(here, dr.select(bent, away, met.t), away)
        onward = met.spawn_ray(frame.to_world(goes))
        ray = mi.Ray3f(dr.select(here, onward.o, ray.o), dr.select(here, onward.d, ray.d))
        bent = bent | here
    return BentRays(ray, left, bent, away)
