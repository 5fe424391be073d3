"""What of the models a project shows: the files, what is left out, nudged, mended."""

from __future__ import annotations

from dataclasses import dataclass

from altana.core.conventions import Vec3


@dataclass(frozen=True, slots=True)
class ModelRef:
    """A model file of the project; ``path`` is relative to the project file where that is possible."""

    id: str
    path: str
    #: Metres per unit for files that carry no unit; 0 keeps what the file says.
    unit_m: float = 0.0
    #: Which axis of the file points up, "y" or "z"; empty keeps what the file says or what is found.
    up: str = ""
    #: Where it stands: moved so many metres east, north and up, after it was turned clockwise about its own
    #: zero.
    move: Vec3 = (0.0, 0.0, 0.0)
    turn_deg: float = 0.0
    #: Whether it is part of the scene at all.
    shown: bool = True


@dataclass(frozen=True, slots=True)
class LeftOut:
    """What pictures do not show: objects by id, whole categories by name, whole storeys by id."""

    objects: tuple[str, ...] = ()
    categories: tuple[str, ...] = ()
    storeys: tuple[str, ...] = ()

    def __bool__(self) -> bool:
        return bool(self.objects or self.categories or self.storeys)


NOTHING_LEFT_OUT = LeftOut()


@dataclass(frozen=True, slots=True)
class Nudge:
    """One object moved (metres), turned (degrees clockwise about its middle) or taken out for one camera."""

    object_id: str
    move: Vec3 = (0.0, 0.0, 0.0)
    turn_deg: float = 0.0
    out: bool = False


@dataclass(frozen=True, slots=True)
class Patch:
    """A mend of ours on the model: a plain panel, ceiling or ground; never written into a model file.

    ``corners`` run round the flat piece (metres); it is ``thickness_m`` thick, behind the side its corners go
    counter-clockwise on.
    """

    id: str
    name: str
    kind: str
    corners: tuple[Vec3, ...]
    thickness_m: float = 0.02
    on: bool = True


PANEL, CEILING, GROUND = "panel", "ceiling", "ground"
