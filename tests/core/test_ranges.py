"""Every limit stands once, and fields, checks, command line and schema agree on it."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from altana.core import ranges
from altana.core.edits.cameras import checked
from altana.core.edits.shots import checked_tone
from altana.core.errors import Refused
from altana.core.project import Camera, Tone
from altana.core.ranges import FOCAL_MM, TONE, Range

LIMITED = (("focal_mm", "FOCAL_MM"), ("sensor_width_mm", "SENSOR_MM"), ("tilt_deg", "TILT_DEG"), ("ev", "EV"))


@pytest.mark.parametrize(("field", "limit"), LIMITED)
def test_a_camera_is_kept_within_its_ranges_and_the_sentence_says_them(field: str, limit: str) -> None:
    allowed: Range = getattr(ranges, limit)
    for value in (allowed.low, allowed.high):
        checked(Camera("", "A", **{field: value}))  # type: ignore[arg-type]
    for value in (allowed.low - 0.5, allowed.high + 0.5):
        with pytest.raises(Refused, match=f"outside {allowed.low:g}"):
            checked(Camera("", "A", **{field: value}))  # type: ignore[arg-type]
    with pytest.raises(Refused):
        checked(Camera("", "A", **{field: float("nan")}))  # type: ignore[arg-type]


@pytest.mark.parametrize("name", TONE)
def test_a_tone_is_kept_within_its_ranges(name: str) -> None:
    with pytest.raises(Refused, match="is outside"):
        checked_tone(Tone(**{name: TONE[name].high + 0.1}))  # type: ignore[arg-type]


def test_the_published_schema_has_the_same_limits() -> None:
    published = json.loads((Path(__file__).parents[2] / "docs/project.schema.json").read_text())
    focal = published["$defs"]["Camera"]["properties"]["focal_mm"]
    assert (focal["minimum"], focal["maximum"]) == (FOCAL_MM.low, FOCAL_MM.high)


def test_a_sentence_says_the_unit_as_people_write_it() -> None:
    with pytest.raises(Refused, match=r"^A tilt of 91° is outside -90° to 90°\.$"):
        ranges.TILT_DEG.check("A tilt", 91.0)
    with pytest.raises(Refused, match=r"^A focal length of 3 mm is outside 4 to 1200 mm\.$"):
        FOCAL_MM.check("A focal length", 3.0)
