"""Every limit of a value once: fields, checks, the command line and the published schema of the project file
read it here."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from msgspec import Meta

from altana.core.errors import Refused


@dataclass(frozen=True, slots=True)
class Range:
    """From ``low`` to ``high``, both allowed, in a unit that is said with them."""

    low: float
    high: float
    unit: str = ""

    def __contains__(self, value: float) -> bool:
        return self.low <= value <= self.high

    def check(self, what: str, value: float) -> None:
        """Raises Refused where the value lies outside; ``what`` begins the sentence: "A focal length"."""
        if value not in self:
            gap = "" if self.unit in ("", "°") else " "
            raise Refused(
                f"{what} of {value:g}{gap}{self.unit} is outside {self.low:g}{_degree(self.unit)} to {self.high:g}{gap}{self.unit}."
            )

    @property
    def meta(self) -> Meta:
        """For the published schema only: values are checked by the edits, whose sentences name the camera or
        walk."""
        return Meta(extra_json_schema={"minimum": self.low, "maximum": self.high})


def _degree(unit: str) -> str:
    return unit if unit == "°" else ""


# ---------------------------------------------------------------------- cameras

#: Metres and degrees beyond which nothing is built.
COORDINATE_M = Range(-1e7, 1e7, "m")
FOCAL_MM = Range(4.0, 1200.0, "mm")
SENSOR_MM = Range(1.0, 500.0, "mm")
TILT_DEG = Range(-90.0, 90.0, "°")
#: What a field offers: straight up and down there is no heading.
TILT_FIELD_DEG = Range(-89.0, 89.0, "°")
ROLL_DEG = Range(-180.0, 180.0, "°")
SHIFT_MM = Range(-60.0, 60.0, "mm")
ANGLE_OF_VIEW_DEG = Range(1.0, 150.0, "°")
AIM_M = Range(0.1, 1e5, "m")
EV = Range(-10.0, 25.0, "EV")
SIDE_PX = Range(16, 32768, "px")
NEAR_M = Range(0.01, 1e5, "m")
FAR_M = Range(0.02, 1e6, "m")
#: Where a plan is cut, above the floor of its storey.
CUT_RANGE_M = Range(0.05, 30.0, "m")
CUT_OFFSET_M = Range(-5.0, 20.0, "m")
EYE_HEIGHT_M = Range(-100.0, 1000.0, "m")

# ---------------------------------------------------------------------- walks

WALK_S = Range(0.1, 3600.0, "s")
PAUSE_S = Range(0.0, 3600.0, "s")
FILM_SIDE_PX = Range(16, 8192, "px")
HANDLE_M = Range(0.01, 100.0, "m")
LOOK_EARLY_M = Range(0.0, 50.0, "m")
RADIUS_M = Range(0.05, 1e5, "m")
SWEEP_DEG = Range(0.1, 3600.0, "°")
STOPS = Range(1, 360)
PACE_M_S = Range(0.02, 50.0, "m/s")
FILM_FRAMES = Range(1, 400_000)
RATE_HZ = Range(1.0, 240.0)
HOUR = Range(0.0, 24.0)

# ---------------------------------------------------------------------- light

LATITUDE_DEG = Range(-90.0, 90.0, "°")
LONGITUDE_DEG = Range(-180.0, 180.0, "°")
UTC_OFFSET_H = Range(-12.0, 14.0, "h")
NORTH_DEG = Range(-360.0, 360.0, "°")
HAZE = Range(0.0, 1.0)
STRENGTH_EV = Range(-12.0, 12.0, "EV")
KELVIN = Range(1000.0, 15000.0, "K")
LUMENS = Range(0.0, 1e7, "lm")
#: What lamps give of their light while they burn.
LAMP_LEVEL = Range(0.0, 1.0)
F_NUMBER = Range(0.5, 64.0)
FOCUS_M = Range(0.05, 1e5, "m")
SAMPLES = Range(0, 65536)
MINUTES = Range(0.0, 100_000.0, "min")

# ---------------------------------------------------------------------- rows of the shot list

SCALE_PERCENT = Range(1.0, 400.0, "%")
DPI = Range(1.0, 4800.0, "dpi")
EYES_APART_M = Range(0.0, 0.5, "m")
STROKE_PX = Range(0.2, 40.0, "px")
SEED = Range(0, 999_999)
SHARE = Range(0.0, 1.0)
PASSES = Range(1, 256)
LIGHT_RAYS = Range(0, 1024)
SHADOW_PX = Range(256, 8192, "px")

#: Figures of a tone by the names of its fields.
TONE: dict[str, Range] = {
    "exposure_ev": Range(-10.0, 10.0, "EV"),
    "rolloff": Range(0.0, 2.0),
    "contrast": Range(-1.0, 1.0),
    "white_k": Range(2000.0, 20000.0, "K"),
    "saturation": Range(-1.0, 1.0),
    "vignette": SHARE,
    "glow": SHARE,
    "sharpen": Range(0.0, 2.0),
    "table_share": SHARE,
}

LampLevel = Annotated[float, LAMP_LEVEL.meta]
Focal = Annotated[float, FOCAL_MM.meta]
Sensor = Annotated[float, SENSOR_MM.meta]
Tilt = Annotated[float, TILT_DEG.meta]
Side = Annotated[int, SIDE_PX.meta]
WalkSeconds = Annotated[float, WALK_S.meta]
