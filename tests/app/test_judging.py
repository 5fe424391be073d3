"""What helps judging a picture, and what could be in the way of it: reference lines, outlines, facts of
panoramas, tags."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from altana.app.canvas.look_round import LookRound
from altana.app.hand_over.phone import PhonePanel
from altana.app.shell.window import COMPOSE, WALK, MainWindow
from altana.app.theme.tokens import LIGHT
from altana.jobs.panoramas import host_says
from tests.app.conftest import menu_of, press, until


def lines_of(plan) -> int:  # type: ignore[no-untyped-def]
    return int(plan.paths.lines.count)


def test_reference_lines_are_one_state_with_layers_by_name(window: MainWindow) -> None:
    plans = (window.compose.plan, window.walk_desk.plan)
    scene = window.workspace.studio.scene
    assert scene is not None and len(scene.model.linework.layers) == 4
    window.going.choose_desk(WALK)
    until(lambda: lines_of(plans[1]) > 0, 20)
    window.going.choose_desk(COMPOSE)
    whole = lines_of(plans[0])
    assert lines_of(plans[1]) == whole
    QTest.keyClick(window, Qt.Key.Key_K)
    assert [lines_of(plan) for plan in plans] == [0, 0]
    assert all(plan.controls.lines_button.text() == "Lines: off ▾" for plan in plans)
    menu = menu_of(plans[1].controls.lines_button)
    layers = [action for action in menu.actions() if action.text() in scene.model.linework.layers]
    assert len(layers) == 4 and not any(action.isChecked() for action in layers)
    QTest.keyClick(window, Qt.Key.Key_K)
    layers[0].trigger()
    assert 0 < lines_of(plans[0]) < whole and lines_of(plans[0]) == lines_of(plans[1])
    assert plans[0].controls.lines_button.text() == "Lines: 3 of 4 ▾"
    layers[0].trigger()
    assert lines_of(plans[0]) == whole and plans[0].controls.lines_button.text() == "Lines ▾"


def test_the_outline_of_what_is_chosen_can_be_switched_off(window: MainWindow) -> None:
    frame, scene = window.compose.frame, window.workspace.studio.scene
    assert scene is not None
    window.workspace.state.select("cam-01")
    # At rest: nothing that arrives later may stand between two grabs.
    until(lambda: frame.picture.current, 60)
    window.workspace.state.choose_object("")
    plain = frame.grab().toImage()
    bench = next(item for item in scene.model.objects if item.name == "Bench 1")
    window.workspace.state.choose_object(bench.id)
    assert frame.grab().toImage() != plain
    QTest.keyClick(window, Qt.Key.Key_O, Qt.KeyboardModifier.AltModifier)
    assert frame.grab().toImage() == plain
    menu = menu_of(window.compose.tools.look)
    (outline,) = [action for action in menu.actions() if action.text().startswith("Outline")]
    assert not outline.isChecked()
    outline.trigger()
    assert frame.grab().toImage() != plain
    window.workspace.state.choose_object("")


def test_the_facts_below_a_panorama_are_a_panoramas(window: MainWindow) -> None:
    window.going.choose_desk(COMPOSE)
    window.workspace.state.select("cam-01")
    facts = window.compose.facts
    assert "view <b>73.7" in facts.labels["view"].text()
    window.compose.frame.setFocus()
    QTest.keyClick(window, Qt.Key.Key_Z)
    try:
        assert facts.labels["view"].text() == "view <b>360° × 180°</b>"
        assert "px a degree" in facts.labels["stretch"].text()
        assert "front <b>0°" in facts.labels["points"].text()
        assert facts.labels["shares"].text() == "" and facts.buttons["edges"].isHidden()
        until(lambda: window.compose.pictures.round.look == "full", 60)
        assert "view <b>360°" in facts.labels["view"].text()
    finally:
        QTest.keyClick(window, Qt.Key.Key_Escape)
    until(lambda: "view <b>73.7" in facts.labels["view"].text(), 5)


def test_tags_are_mended_below_the_panorama(application: QApplication, tmp_path: Path) -> None:
    path = tmp_path / "edited.jpg"
    pixels = np.random.default_rng(2).integers(0, 255, (512, 1024, 3)).astype(np.uint8)
    Image.fromarray(pixels).save(path)
    view = LookRound(LIGHT)
    panel = PhonePanel(view)
    mended: list[bool] = []
    panel.mended.connect(lambda: mended.append(True))
    panel.show_file(path)
    assert "would not take it" in panel.verdict.text() and not panel.mend.isHidden()
    press(panel.mend)
    assert mended == [True] and host_says(path).taken
    assert panel.verdict.text().startswith("✓ Taken as a panorama") and panel.mend.isHidden()
    # What tags cannot mend is not offered.
    Image.fromarray(pixels[:300, :700]).save(tmp_path / "flat.jpg")
    panel.show_file(tmp_path / "flat.jpg")
    assert panel.mend.isHidden()
    panel.deleteLater()
    view.deleteLater()


@pytest.mark.parametrize("name", ["frame.outline", "plan.reference-lines"])
def test_they_are_commands_with_keys(window: MainWindow, name: str) -> None:
    assert window.table.keys_of(name)
