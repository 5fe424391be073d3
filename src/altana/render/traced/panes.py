"""Clear panes: a little of the light is mirrored, the more the flatter it comes; the rest goes through and
takes their colour.

One face of a pane as the Frame draws it (shaders/glass.frag), so that both show the same glass.
"""

from __future__ import annotations

from dataclasses import dataclass
from types import ModuleType
from typing import Any

from altana.core.conventions import Floats32
from altana.core.light.panes import A_FACE, PANE_MIRROR, SQUARE, pane_tint


@dataclass(frozen=True, slots=True)
class _Glass:
    """One face of a pane: the colour that light takes on through it, that of its body, and how dense that is,
    0 to 1."""

    mi: ModuleType
    tint: Any
    body: Any
    dense: float

    def shares(self, at: Any) -> tuple[Any, Any, Any]:
        """What is mirrored, what goes through (before its colour is taken), and what the body takes.  The
        mirror is C. Schlick's ("An inexpensive BRDF model for physically-based rendering", 1994)."""
        import drjit as dr

        flat = 1.0 - dr.minimum(dr.abs(self.mi.Frame3f.cos_theta(at.wi)), 1.0)
        mirror = SQUARE + (1.0 - SQUARE) * flat * flat * flat * flat * flat
        mirror = dr.clip(mirror * A_FACE, PANE_MIRROR, 1.0)
        return mirror, (1.0 - mirror) * (1.0 - self.dense), (1.0 - mirror) * self.dense

    def drawn(self, at: Any, one: Any, two: Any) -> tuple[Any, Any]:
        """Where a path goes on, each of the three ways by its share, and what is left of its light."""
        import drjit as dr

        mi, flags = self.mi, self.mi.BSDFFlags
        mirror, through, whole = self.shares(at)
        scattered = mi.warp.square_to_cosine_hemisphere(two)
        side = dr.select(mi.Frame3f.cos_theta(at.wi) < 0.0, -1.0, 1.0)
        thrown = mi.Vector3f(scattered.x, scattered.y, scattered.z * side)

        def way(mirrored: Any, passed: Any, else_: Any) -> Any:
            return dr.select(one < mirror, mirrored, dr.select(one < mirror + through, passed, else_))

        sample = dr.zeros(mi.BSDFSample3f, dr.width(at))
        sample.wo = way(mi.reflect(at.wi), -at.wi, thrown)
        sample.pdf = way(mirror, through, whole * mi.warp.square_to_cosine_hemisphere_pdf(scattered))
        sample.eta = mi.Float(1.0)
        kinds = (flags.DeltaReflection, flags.Null, flags.DiffuseReflection)
        sample.sampled_type = way(*(mi.UInt32(int(kind)) for kind in kinds))
        sample.sampled_component = way(*(mi.UInt32(number) for number in range(3)))
        return sample, way(mi.Color3f(1.0), self.tint, self.body)

    def thrown(self, at: Any, wo: Any, active: Any) -> Any:
        """The body's share of the cosine, where light and eye are on one side: how likely it is drawn,
        too."""
        import drjit as dr

        out = self.mi.Frame3f.cos_theta(wo)
        there = active & (self.mi.Frame3f.cos_theta(at.wi) * out > 0.0)
        return dr.select(there, self.shares(at)[2] * dr.abs(out) * dr.inv_pi, 0.0)


def pane_surface(mi: ModuleType, colour: Floats32, solid: float) -> Any:
    """One face of a pane.  colour : (3,) linear.  solid : its opacity, 0 to 1."""
    tint = mi.Color3f(*pane_tint(colour, solid).tolist())
    glass = _Glass(mi, tint, mi.Color3f(*colour.tolist()), float(solid) ** 2)
    flags, both = mi.BSDFFlags, mi.BSDFFlags.FrontSide | mi.BSDFFlags.BackSide

    class Pane(mi.BSDF):  # type: ignore[name-defined, misc]
        """Mirrors, lets through, and throws back what falls on its body."""

        def __init__(self) -> None:
            super().__init__(mi.Properties())
            kinds = (flags.DeltaReflection, flags.Null, flags.DiffuseReflection)
            self.m_components = [kind | both for kind in kinds]
            self.m_flags = self.m_components[0] | self.m_components[1] | self.m_components[2]

        def sample(self, context: Any, at: Any, one: Any, two: Any, active: Any = True) -> tuple[Any, Any]:
            """Where a path goes on, and what is left of its light."""
            drawn_sample, weight = glass.drawn(at, one, two)
            return drawn_sample, weight & active

        def eval(self, context: Any, at: Any, wo: Any, active: Any = True) -> Any:
            """What the body throws."""
            return glass.body * glass.thrown(at, wo, active)

        def pdf(self, context: Any, at: Any, wo: Any, active: Any = True) -> Any:
            """How likely a direction is drawn, of those that are not certain."""
            return glass.thrown(at, wo, active)

        def eval_pdf(self, context: Any, at: Any, wo: Any, active: Any = True) -> tuple[Any, Any]:
            """Both."""
            thrown = glass.thrown(at, wo, active)
            return glass.body * thrown, thrown

        def eval_null_transmission(self, at: Any, active: Any = True) -> Any:
            """What comes straight through."""
            return (glass.tint * glass.shares(at)[1]) & active

    return Pane()
