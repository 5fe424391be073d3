"""Numbers as people type them: sizes in pixels and on paper, rates of films."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from altana.core.conventions import parse_rate, rate_words
from altana.core.errors import Refused
from altana.core.measures import parse_pixels


@pytest.mark.parametrize(
    ("text", "sides"),
    [
        ("1920", (1920.0, None)),
        ("1920 px", (1920.0, None)),
        ("1920 x 1080", (1920.0, 1080.0)),
        ("1920×1080 px", (1920.0, 1080.0)),
        ("10 in", (3000.0, None)),
        ("10 x 7 in", (3000.0, 2100.0)),
        ("10 in x 7 in", (3000.0, 2100.0)),
        ("25.4 cm", (3000.0, None)),
        ("254mm", (3000.0, None)),
        ("×2", (1600.0, None)),
        ("2x", (1600.0, None)),
        ("50 %", (400.0, None)),
    ],
)
def test_sizes_are_read_in_pixels_on_paper_and_in_multiples(
    text: str, sides: tuple[float, float | None]
) -> None:
    assert parse_pixels(text, 800.0, 300.0) == sides


@pytest.mark.parametrize("text", ["", "wide", "10 kg", "x", "10 x", "x 7 in", "1e999", "10 x 7 x 3"])
def test_what_is_no_size_is_refused_with_a_sentence(text: str) -> None:
    with pytest.raises(Refused, match=r"write 1920|not a number|too large"):
        parse_pixels(text, 800.0)


@pytest.mark.parametrize(
    ("text", "rate", "words"),
    [
        ("24", Fraction(24), "24"),
        ("25", Fraction(25), "25"),
        ("23.976", Fraction(24000, 1001), "23.976 (24000/1001)"),
        ("23,976", Fraction(24000, 1001), "23.976 (24000/1001)"),
        ("29.97", Fraction(30000, 1001), "29.97 (30000/1001)"),
        ("59.94", Fraction(60000, 1001), "59.94 (60000/1001)"),
        ("24000/1001", Fraction(24000, 1001), "23.976 (24000/1001)"),
        ("12.5", Fraction(25, 2), "12.5 (25/2)"),
        ("24.0", Fraction(24), "24"),
    ],
)
def test_rates_are_what_people_mean_by_them(text: str, rate: Fraction, words: str) -> None:
    assert parse_rate(text) == rate and rate_words(text) == words


@pytest.mark.parametrize(
    "text", ["1e99999999", "1e-99999999", "1/0", "nan", "inf", "-25", "0x10", "9" * 5000, "1_0", "25/1.5"]
)
def test_no_rate_takes_long_to_refuse(text: str) -> None:
    with pytest.raises(Refused):
        parse_rate(text)


@given(st.text(max_size=12))
def test_whatever_is_typed_is_a_size_or_a_sentence(text: str) -> None:
    try:
        first, second = parse_pixels(text, 100.0)
    except Refused as error:
        assert error.sentence
    else:
        assert first == first and (second is None or second == second)
