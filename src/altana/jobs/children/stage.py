"""What the child that draws pictures has open, and how it draws."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path

from altana.core.geometry.rays import RayScene
from altana.core.picture_key import ESTIMATED
from altana.core.project import Light, Project
from altana.jobs.drawn_before import DrawnBefore
from altana.jobs.looking import Checker
from altana.jobs.models import Opened
from altana.jobs.picture import PictureWork
from altana.jobs.pixel_light import KnownPixels
from altana.jobs.soft import SoftLights
from altana.render.renderer import Renderer


@dataclass(slots=True)
class Stage:
    """What the pictures' child has open: the models, what draws them, in which light, and what checks
    them."""

    opened: Opened
    renderer: Renderer
    #: The light whose soft light is shown where a picture has none of its own; None while it is estimated.
    light: Light | None
    checker: Checker
    #: The project whose models are open, and its folder, where surroundings lie.
    project: Project
    base: Path
    soft: SoftLights
    #: The light of the pixels of pictures at rest.
    pixels: KnownPixels
    finishing: PictureWork | None = None
    #: How well the soft light is known that is shown.
    lit: int = ESTIMATED
    floors: RayScene | None = None
    #: What was drawn in this light a moment ago.
    before: DrawnBefore = field(default_factory=DrawnBefore)
