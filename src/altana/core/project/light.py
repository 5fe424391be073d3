"""Light of a project: place, date and time, sky, surroundings, lamps."""

from __future__ import annotations

from dataclasses import dataclass, replace

from altana.core.ranges import LampLevel

CLEAR, HAZY, OVERCAST = "clear", "hazy", "overcast"
SKIES = (CLEAR, HAZY, OVERCAST)
AS_LIGHT, AS_BACKGROUND, AS_BOTH = "light", "background", "both"
SURROUNDINGS_USES = (AS_LIGHT, AS_BACKGROUND, AS_BOTH)


@dataclass(frozen=True, slots=True)
class Surroundings:
    """A 2:1 picture round the building: its file in the project's folder, empty for none.

    ``turn_deg`` turns it clockwise seen from above; untouched its middle lies in the model's north.
    ``strength_ev`` : +1 doubles its light, 0 makes it as bright on level ground as the sky of the hour.
    Where it lights, the sun in it shines; with ``sun_of_hour`` the sun of the date and hour does, and the one
    in the picture goes out.
    """

    file: str = ""
    use: str = AS_BOTH
    turn_deg: float = 0.0
    strength_ev: float = 0.0
    sun_of_hour: bool = False


@dataclass(frozen=True, slots=True)
class LampGroup:
    """How lamps of one group burn: on or off, strength as EV on what they are, and their warmth (0: as they
    are)."""

    name: str
    on: bool = True
    strength_ev: float = 0.0
    kelvin: float = 0.0


@dataclass(frozen=True, slots=True)
class MarkedLamp:
    """An object of the model that is a lamp: its surface gives so many lumens."""

    object_id: str
    lumens: float = 800.0
    kelvin: float = 3000.0


@dataclass(frozen=True, slots=True)
class Lamps:
    """The lamps of the project: whether they burn at all and to which share of their light they are dimmed,
    their groups where they differ, and objects marked as lamps, each with its lumens and kelvin."""

    on: bool = False
    groups: tuple[LampGroup, ...] = ()
    marked: tuple[MarkedLamp, ...] = ()
    level: LampLevel = 1.0

    def group(self, name: str) -> LampGroup:
        """How a group burns."""
        return next((item for item in self.groups if item.name == name), LampGroup(name))

    @property
    def hung(self) -> Lamps:
        """What hangs in the model, whether it burns now or not."""
        return replace(self, on=False, level=1.0)

    @property
    def share(self) -> float:
        """How much of their light the lamps give now, 0 to 1."""
        return self.level if self.on else 0.0

    def burning(self, share: float) -> Lamps:
        """The same lamps, giving a share of their light."""
        return replace(self, on=share > 0.0, level=share if share > 0.0 else 1.0)


@dataclass(frozen=True, slots=True)
class Light:
    """The sun by place and time: degrees north and east, local date and hour (clock time), and what the clock
    is ahead of UTC.

    ``zone`` names a time zone (Europe/Zurich), which knows daylight saving; where it is empty
    ``utc_offset_h`` holds.  ``north_deg`` : from the model's +Y to true north, clockwise.  ``place`` is the
    name of a town, for people.
    """

    latitude_deg: float = 47.0
    longitude_deg: float = 9.0
    utc_offset_h: float = 2.0
    date: str = "2026-06-21"
    hour: float = 15.0
    haze: float = 0.2
    place: str = ""
    zone: str = ""
    north_deg: float = 0.0
    sky: str = CLEAR
    surroundings: Surroundings = Surroundings()
    lamps: Lamps = Lamps()


USUAL_LIGHT = Light()


@dataclass(frozen=True, slots=True)
class OwnLight:
    """What a camera or a row has of its own instead of the project's: a date, an hour, a sky, lamps on or
    off; None and empty follow the project."""

    date: str = ""
    hour: float | None = None
    sky: str = ""
    lamps: bool | None = None

    def __bool__(self) -> bool:
        return self != FOLLOWS


FOLLOWS = OwnLight()
