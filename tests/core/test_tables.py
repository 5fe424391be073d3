"""Colour tables, line styles and the figures behind the words of quality."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from altana.core.edits.shots import checked_qualities, set_making
from altana.core.errors import Refused
from altana.core.light.tables import ColourTable, table_of
from altana.core.light.tone import developed
from altana.core.project import USUAL_QUALITIES, Making, Project, Style, Tone
from altana.core.styles import STYLES, called, style_named

SHOWN = np.random.default_rng(5).uniform(0.0, 1.0, (30, 40, 3)).astype(np.float32)


def grid_text(size: int, colour: object, head: str = "") -> str:
    """The text of a table whose colours are a function of red, green and blue."""
    steps = np.linspace(0.0, 1.0, size)
    rows = [" ".join(f"{v:.6f}" for v in colour(r, g, b)) for b in steps for g in steps for r in steps]  # type: ignore[operator]
    return f'# made for a test\nTITLE "x"\n{head}LUT_3D_SIZE {size}\n' + "\n".join(rows) + "\n"


def test_a_table_that_changes_nothing_changes_nothing() -> None:
    table = table_of(grid_text(5, lambda r, g, b: (r, g, b)))
    assert table.applied(SHOWN) == pytest.approx(SHOWN, abs=1e-6)


def test_red_goes_on_fastest_and_channels_are_told_apart() -> None:
    table = table_of(grid_text(9, lambda r, g, b: (b, r, 1.0 - g)))
    wanted = np.stack([SHOWN[..., 2], SHOWN[..., 0], 1.0 - SHOWN[..., 1]], axis=2)
    assert table.applied(SHOWN) == pytest.approx(wanted, abs=1e-5)
    assert table.applied(SHOWN, 0.25) == pytest.approx(SHOWN + (wanted - SHOWN) * 0.25, abs=1e-5)
    assert table.applied(SHOWN, 0.0) == pytest.approx(SHOWN, abs=1e-7)


def test_between_its_points_a_table_is_straight_and_outside_it_is_its_edge() -> None:
    table = table_of(
        grid_text(2, lambda r, g, b: (0.2 + 0.6 * r, g, b), head="DOMAIN_MIN 0.25 0 0\nDOMAIN_MAX 0.75 1 1\n")
    )
    reds = np.zeros((1, 4, 3), np.float32)
    reds[0, :, 0] = (0.0, 0.25, 0.5, 1.0)
    assert table.applied(reds)[0, :, 0] == pytest.approx((0.2, 0.2, 0.5, 0.8), abs=1e-6)


def test_a_table_of_curves_has_one_for_each_channel() -> None:
    table = table_of("LUT_1D_SIZE 3\n0 0 1\n0.25 0.5 0.5\n1 1 0\n")
    half = np.full((1, 1, 3), 0.5, np.float32)
    assert table.applied(half)[0, 0] == pytest.approx((0.25, 0.5, 0.5), abs=1e-6)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "0 colours"),
        ("LUT_3D_SIZE 2\n0 0 0\n", "1 colours where 8"),
        ("LUT_3D_SIZE 900\n", "line 1"),
        ("LUT_3D_SIZE 2\n0 0\n", "line 2"),
        ("LUT_1D_SIZE 2\n0 0 nan\n1 1 1\n", "not all"),
        ("LUT_1D_SIZE 2\nDOMAIN_MIN 1 0 0\nDOMAIN_MAX 0 1 1\n0 0 0\n1 1 1\n", "domain"),
        ("0 0 0\n" * 3, "3 colours"),
        ("LUT_3D_SIZE x\n", "line 1"),
    ],
)
def test_what_is_no_table_is_said(text: str, said: str) -> None:
    with pytest.raises(Refused, match=said):
        table_of(text)


def test_a_tone_puts_its_table_over_everything_but_sharpening() -> None:
    light = np.random.default_rng(3).uniform(1.0, 4000.0, (20, 30, 3)).astype(np.float32)
    turned = table_of(grid_text(17, lambda r, g, b: (1.0 - r, 1.0 - g, 1.0 - b)))
    tone = Tone(contrast=0.3, table="tables/turned.cube", table_share=1.0)
    plain = developed(light, 10.0, replace(tone, table=""))
    assert developed(light, 10.0, tone, table=turned) == pytest.approx(1.0 - plain, abs=1e-5)
    # Named but not given: the tone alone.
    assert (developed(light, 10.0, tone) == plain).all()
    assert isinstance(turned, ColourTable)


def test_styles_have_names_of_their_own_and_are_known_again() -> None:
    assert len({style.name for style in STYLES}) == len(STYLES) >= 6
    assert style_named("soft PENCIL").name == "Soft pencil"
    with pytest.raises(Refused, match="Fine pen"):
        style_named("chalk")
    assert called(Style()) == "Ink"
    assert called(replace(style_named("Sepia"), name="from a file")) == "Sepia"
    assert called(replace(style_named("Sepia"), outline_px=9.0)) == "Sepia, changed"
    assert called(Style("Mine", 3.3)) == "Mine"


def test_the_figures_of_a_word_are_the_projects() -> None:
    project = set_making(Project(), "review", Making(12, 6, 4096))
    assert project.qualities.of("review") == Making(12, 6, 4096)
    assert project.qualities.proof == USUAL_QUALITIES.proof
    for word, making, said in (
        ("best", Making(1, 1), "no quality"),
        ("final", Making(0, 1), "passes"),
        ("proof", Making(1, 1, 10), "shadow"),
    ):
        with pytest.raises(Refused, match=said):
            set_making(project, word, making)
    assert checked_qualities(USUAL_QUALITIES) is USUAL_QUALITIES
