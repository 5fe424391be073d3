"""Exposure values as f-number and shutter."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from altana.core.document import Document
from altana.core.light.exposure import exposure_for
from altana.core.project import Project


@pytest.mark.parametrize(
    ("ev", "words"),
    [
        (14.0, "f/8 · 1/250 s"),
        (15.0, "f/8 · 1/500 s"),
        (10.0, "f/4 · 1/60 s"),
        (12.0, "f/8 · 1/60 s"),
        (7.0, "f/1.4 · 1/60 s"),
        (0.0, "f/1.4 · 2 s"),
        (19.0, "f/22 · 1/1000 s"),
    ],
)
def test_usual_pairs(ev: float, words: str) -> None:
    assert exposure_for(ev).words == words


@given(st.floats(-6.0, 22.0))
def test_the_pair_is_the_exposure_value(ev: float) -> None:
    pair = exposure_for(ev)
    # ISO 2720: EV = log2(N²/t), with the exact f-number √2^stop.
    assert np.log2((2.0 ** (pair.stop / 2.0)) ** 2 / pair.seconds) == pytest.approx(ev, abs=1e-9)
    assert float(pair.f_number) == pytest.approx(2.0 ** (pair.stop / 2.0), rel=0.04)


def test_a_newest_step_takes_more_in_and_is_undone_as_one() -> None:
    document = Document(Project())
    document.apply("Name", lambda p: Project(name="A"))
    assert document.amend("Name", lambda p: Project(name=p.name, author="B"))
    assert not document.amend("Other", lambda p: Project(name="C"))
    assert (document.project.name, document.project.author) == ("A", "B")
    assert document.undo() == "Name"
    assert document.project == Project()
    # What is undone is no longer amended.
    assert not document.amend("Name", lambda p: Project(name="D"))
    document.redo()
    assert (document.project.name, document.project.author) == ("A", "B")
    document.begin()
    assert not document.amend("Name", lambda p: Project(name="E"))
