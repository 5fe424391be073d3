"""What each camera was last fitted to, while it still stands as that left it: squaring then keeps it in the
middle."""

from __future__ import annotations

from dataclasses import dataclass, field

from altana.core.conventions import Floats
from altana.core.lens import fit_by_distance, fit_by_lens
from altana.core.project import Camera


@dataclass(frozen=True, slots=True)
class Fit:
    """A camera as fitting left it, the (n, 3) points it was fitted to, and whether the lens or the distance
    was changed."""

    camera: Camera
    points: Floats
    by: str

    def squared(self, heading_deg: float) -> Camera:
        """The same fit, level at another heading."""
        fit = fit_by_lens if self.by == "lens" else fit_by_distance
        return fit(self.camera, self.points, square_deg=heading_deg)


@dataclass(slots=True)
class Fits:
    """The fits of a project's cameras, by id."""

    _kept: dict[str, Fit] = field(default_factory=dict)

    def keep(self, camera_id: str, fit: Fit) -> None:
        """Remember a fit."""
        self._kept[camera_id] = fit

    def of(self, camera: Camera) -> Fit | None:
        """The fit of a camera whose view is still what fitting left."""
        kept = self._kept.get(camera.id)
        return kept if kept is not None and kept.camera.view() == camera.view() else None
