"""Clear panes: a little of the light is mirrored, the more the flatter it comes; the rest goes through and takes their colour.

One face of a pane as the Frame draws it (shaders/glass.frag), so that both show the same glass.
"""

from __future__ import annotations

from types import ModuleType
from typing import Any

from altana.core.conventions import Floats32
from altana.core.light.gathering import PANE_MIRROR, pane_tint

#: What of light is mirrored that falls square on glass, and how much of that one face of a pane takes.
SQUARE, A_FACE = 0.04, 0.54


def pane_surface(mi: ModuleType, colour: Floats32, solid: float) -> Any:
    """One face of a pane.  colour : (3,) linear.  solid : its opacity, 0 to 1."""
    import drjit as dr

    flags, both = mi.BSDFFlags, mi.BSDFFlags.FrontSide | mi.BSDFFlags.BackSide
    tint, body = mi.Color3f(*pane_tint(colour, solid).tolist()), mi.Color3f(*colour.tolist())
    dense = float(solid) ** 2

    class Pane(mi.BSDF):  # type: ignore[name-defined, misc]
        """Mirrors, lets through, and throws back what falls on its body."""

        def __init__(self) -> None:
            super().__init__(mi.Properties())
            self.m_components = [
                flags.DeltaReflection | both,
                flags.Null | both,
                flags.DiffuseReflection | both,
            ]
            self.m_flags = self.m_components[0] | self.m_components[1] | self.m_components[2]

        def _shares(self, at: Any) -> tuple[Any, Any, Any]:
            """What is mirrored, what goes through (before its colour is taken), and what the body takes."""
            flat = 1.0 - dr.minimum(dr.abs(mi.Frame3f.cos_theta(at.wi)), 1.0)
            mirror = SQUARE + (1.0 - SQUARE) * flat * flat * flat * flat * flat
            mirror = dr.clip(mirror * A_FACE, PANE_MIRROR, 1.0)
            return mirror, (1.0 - mirror) * (1.0 - dense), (1.0 - mirror) * dense

        def sample(self, context: Any, at: Any, one: Any, two: Any, active: Any = True) -> tuple[Any, Any]:
            """Each of the three by its share."""
            mirror, through, whole = self._shares(at)
            mirrored, passed = one < mirror, (one >= mirror) & (one < mirror + through)
            side = dr.select(mi.Frame3f.cos_theta(at.wi) < 0.0, -1.0, 1.0)
            scattered = mi.warp.square_to_cosine_hemisphere(two)
            made = dr.zeros(mi.BSDFSample3f, dr.width(at))
            made.wo = dr.select(
                mirrored,
                mi.reflect(at.wi),
                dr.select(passed, -at.wi, mi.Vector3f(scattered.x, scattered.y, scattered.z * side)),
            )
            thrown = whole * mi.warp.square_to_cosine_hemisphere_pdf(scattered)
            made.pdf = dr.select(mirrored, mirror, dr.select(passed, through, thrown))
            made.eta = mi.Float(1.0)
            kinds = [
                mi.UInt32(int(item)) for item in (flags.DeltaReflection, flags.Null, flags.DiffuseReflection)
            ]
            made.sampled_type = dr.select(mirrored, kinds[0], dr.select(passed, kinds[1], kinds[2]))
            made.sampled_component = dr.select(
                mirrored, mi.UInt32(0), dr.select(passed, mi.UInt32(1), mi.UInt32(2))
            )
            weight = dr.select(mirrored, mi.Color3f(1.0), dr.select(passed, tint, body))
            return made, weight & active

        def _throws(self, at: Any, wo: Any, active: Any) -> Any:
            """The body's share of the cosine, where light and eye are on one side."""
            there = mi.Frame3f.cos_theta(at.wi) * mi.Frame3f.cos_theta(wo) > 0.0
            return dr.select(
                active & there, self._shares(at)[2] * dr.abs(mi.Frame3f.cos_theta(wo)) * dr.inv_pi, 0.0
            )

        def eval(self, context: Any, at: Any, wo: Any, active: Any = True) -> Any:
            """What the body throws."""
            return body * self._throws(at, wo, active)

        def pdf(self, context: Any, at: Any, wo: Any, active: Any = True) -> Any:
            """How likely a direction is drawn, of those that are not certain."""
            return self._throws(at, wo, active)

        def eval_pdf(self, context: Any, at: Any, wo: Any, active: Any = True) -> tuple[Any, Any]:
            """Both."""
            thrown = self._throws(at, wo, active)
            return body * thrown, thrown

        def eval_null_transmission(self, at: Any, active: Any = True) -> Any:
            """What comes straight through."""
            return (tint * self._shares(at)[1]) & active

    return Pane()
