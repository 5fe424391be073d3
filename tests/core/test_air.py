"""Air between an eye and what it sees: by Beer's law along the line of sight, the same in the Frame and in
final pictures."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from altana.core.light.air import CLEAR_AIR, CLEAR_M, HAZE_HIGH_M, HAZY_AIR, air_colour, air_share
from altana.core.light.sky import sky_of
from altana.core.project import Light
from altana.render.context import shader

NOON = sky_of(Light(hour=12.0))


def share(haze: float, eye: float, seen: float, away: float) -> float:
    one = (np.array([value]) for value in (eye, seen, away))
    return float(air_share(replace(NOON, haze=haze), 0.0, *one)[0])


@given(st.floats(0, 1), st.floats(0, 300), st.floats(0, 300), st.floats(500, 20_000))
def test_it_is_what_a_haze_that_thins_by_height_takes(
    haze: float, eye: float, seen: float, away: float
) -> None:
    thick = CLEAR_AIR + (HAZY_AIR - CLEAR_AIR) * haze
    mean = quad(lambda s: np.exp(-(eye + (seen - eye) * s) / HAZE_HIGH_M), 0.0, 1.0)[0]
    assert share(haze, eye, seen, away) == pytest.approx(
        1.0 - np.exp(-(away - CLEAR_M) * thick * mean), abs=0.01
    )


def test_near_things_have_none_and_far_ones_are_of_the_horizons_colour() -> None:
    assert share(0.0, 1.6, 2.0, 39.0) == 0.0
    assert share(0.0, 1.6, 2.0, 50_000.0) == pytest.approx(1.0, abs=1e-6)
    assert share(1.0, 1.6, 2.0, 500.0) > 2.0 * share(0.0, 1.6, 2.0, 500.0)
    # From high above little of it is looked through.
    assert share(0.0, 2000.0, 0.0, 2000.0) < 0.1
    blue = air_colour(NOON.scale)
    assert blue[2] > blue[0] > 0.0


def test_the_frames_shader_has_the_same_numbers() -> None:
    text = shader("light.frag")
    found = re.search(r"distance - ([\d.]+), 0\.0\) \* dense \* mix\(([\d.]+), ([\d.]+), u_haze\)", text)
    assert found is not None
    assert tuple(map(float, found.groups())) == (CLEAR_M, CLEAR_AIR, HAZY_AIR)
    assert float(re.search(r"HAZE_HIGH = ([\d.]+);", text)[1]) == HAZE_HIGH_M  # type: ignore[index]
