"""FIELD=VALUE and PLACE:FIELD=VALUE: read by what the field holds, refused by name."""

from __future__ import annotations

import pytest

from altana.cli.shot_values import TONE_VALUE
from altana.cli.values import Field, FieldValue, PlaceFields, fields_of
from altana.cli.walk_values import KEY_READS
from altana.core.errors import Refused
from altana.core.project import USUAL_QUALITIES, Style


def test_each_field_is_read_as_what_it_holds() -> None:
    style = FieldValue(Style(), ("outline_px", "ink"))
    assert fields_of([style.convert(text, None, None) for text in ("outline_px=2.5", "ink=#102030")]) == {
        "outline_px": 2.5,
        "ink": "#102030",
    }
    making = FieldValue(USUAL_QUALITIES.proof, ("passes",), words=("usual",))
    assert making.convert("passes=7", None, None) == Field("passes", 7)
    assert making.convert("usual", None, None) == Field("usual")
    assert TONE_VALUE.convert("curve=0.25:0.2/0.75:0.8", None, None).value == ((0.25, 0.2), (0.75, 0.8))
    assert TONE_VALUE.convert("highlights=0.3", None, None) == Field("highlights", 0.3)


@pytest.mark.parametrize("text", ["mood=1", "contrast=much", "contrast=", "contrast", "curve=1:2:3/x"])
def test_what_cannot_be_read_is_told_by_name(text: str) -> None:
    with pytest.raises(Refused) as told:
        TONE_VALUE.convert(text, None, None)
    assert text.partition("=")[0] in told.value.sentence


def test_a_whole_number_that_is_endless_is_refused() -> None:
    with pytest.raises(Refused):
        FieldValue(USUAL_QUALITIES.proof, ("passes",)).convert("passes=inf", None, None)


def test_fields_of_a_place() -> None:
    at = PlaceFields(KEY_READS).convert("3:focal=35,near=off,handle=1.5/-2", None, None)
    assert (at.index, at.fields) == (2, {"focal": 35.0, "near": None, "handle": (1.5, -2.0)})
    for text in ("0:focal=35", "focal=35", "2:", "2:speed=3", "2:focal=off", "2:handle=1"):
        with pytest.raises(Refused):
            PlaceFields(KEY_READS).convert(text, None, None)
    assert PlaceFields({"dwell_s": float}, "dwell_s").convert("1:2.5", None, None).fields == {"dwell_s": 2.5}
