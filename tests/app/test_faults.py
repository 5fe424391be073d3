"""A fault of Altana's own is logged with its stack and said in one sentence; what the core refuses is said as
it is."""

from __future__ import annotations

import logging
import logging.handlers
import os
import signal
import sys
from collections.abc import Callable, Iterator

import numpy as np
import pytest
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication

from altana.app.shell import notice_bar
from altana.app.shell.notice_bar import Desks, NoticeBar
from altana.app.shell.window import MainWindow
from altana.app.workspace.background import Background, Newest
from altana.app.workspace.child import Child
from altana.app.workspace.notices import MOST_TIMES, Notice, Notices, Offer, Weight
from altana.core.edits.cameras import set_camera
from altana.core.errors import Refused
from altana.core.project import Project
from altana.jobs.orders import Failure, Reply, See, Survey
from altana.jobs.service import Answer, Task
from altana.storage.log import log_file, start_log, stop_log
from tests.app.conftest import press, until


@pytest.fixture
def notices(application: QApplication) -> Notices:
    return Notices()


@pytest.fixture
def told(notices: Notices) -> list[Notice]:
    heard: list[Notice] = []
    notices.told.connect(heard.append)
    return heard


def clumsy(project: Project) -> Project:
    np.ones(3) + np.ones(4)
    return project


def test_a_numpy_error_in_an_edit_is_a_fault_and_no_advice(
    window: MainWindow, caplog: pytest.LogCaptureFixture
) -> None:
    before = window.workspace.bridge.project
    # Nothing between the edit and the border of the program takes it for a value that makes no sense.
    with pytest.raises(ValueError, match="operands"):
        window.workspace.bridge.apply("x", clumsy)
    assert window.workspace.bridge.project is before
    window.workspace.bridge.begin()
    with pytest.raises(ValueError, match="operands"):
        window.workspace.bridge.preview(clumsy)
    # The gesture is over, so that it does not fail again at every move.
    assert not window.workspace.bridge.in_gesture and window.workspace.bridge.project is before
    with caplog.at_level(logging.ERROR):
        try:
            window.workspace.bridge.apply("x", clumsy)
        except ValueError as error:
            window.workspace.notices._uncaught(type(error), error, error.__traceback__)
    assert "clumsy" in caplog.text and "operands could not be broadcast" in caplog.text
    assert (
        window.notice_bar.sentence.startswith("Something went wrong")
        and "operands" not in window.notice_bar.sentence
    )
    press(window.notice_bar.details)
    assert "operands could not be broadcast" in QGuiApplication.clipboard().text()
    assert not window.workspace.bridge.apply(
        "x", lambda project: set_camera(project, "cam-01", focal_mm=-1.0)
    )
    assert "focal length" in window.notice_bar.sentence and not window.notice_bar.details.isVisible()


def test_what_nothing_catches_is_said_once_and_logged_at_most_so_often(
    notices: Notices, told: list[Notice], caplog: pytest.LogCaptureFixture, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    monkeypatch.setattr("threading.excepthook", None)
    notices.listen()
    with caplog.at_level(logging.ERROR):
        for _ in range(MOST_TIMES + 5):
            error = RuntimeError("boom")
            sys.excepthook(RuntimeError, error, None)
    assert [(notice.weight, "boom" in notice.details) for notice in told] == [(Weight.TROUBLE, True)]
    assert len(caplog.records) == MOST_TIMES


def test_a_thread_that_raises_ends_its_status(window: MainWindow) -> None:
    def work() -> Callable[[], object]:
        raise RuntimeError("no such luck")

    window.activity.do("Reading something", work)
    assert window.activity.text == "Reading something"
    until(lambda: window.activity.text == "", 10)
    assert (
        window.notice_bar.sentence.startswith("Something went wrong")
        and window.notice_bar.details.isVisible()
    )
    assert window.notice_bar.notice is not None and "no such luck" in window.notice_bar.notice.details


def test_background_work_ends_in_exactly_one_way(notices: Notices, told: list[Notice]) -> None:
    background, ends = Background(notices), []

    def refusing() -> str:
        raise Refused("The file is empty.")

    background.run("a", lambda: "read", lambda result: ends.append(result), lambda: ends.append("failed"))
    until(lambda: ends == ["read"], 5)
    background.run("b", refusing, ends.append, lambda: ends.append("failed"))
    until(lambda: ends == ["read", "failed"], 5)
    assert [notice.sentence for notice in told] == ["The file is empty."] and not told[0].details


def test_of_many_wishes_the_newest_counts_even_after_a_fault(notices: Notices, told: list[Notice]) -> None:
    results: list[int] = []
    newest: Newest[int] = Newest(Background(notices), "counting", results.append, in_turn=True)
    newest.wish(lambda: 1 // 0)
    newest.wish(lambda: 2)
    newest.wish(lambda: 3)
    until(lambda: not newest.busy, 5)
    assert results == [3] and len(told) == 1


def test_the_line_offers_and_copies(notices: Notices) -> None:
    taken: list[str] = []
    desk = Desks()
    desk.resize(1000, 600)
    bar = NoticeBar(desk, notices, lambda: None)
    bar.show_notice(
        Notice(Weight.NOTE, "A run was broken off.", offer=Offer("Go on with it", lambda: taken.append("on")))
    )
    assert bar.offer.text() == "Go on with it" and bar.details.isHidden()
    bar.offer.click()
    assert taken == ["on"] and bar.isHidden()
    bar.show_notice(Notice(Weight.TROUBLE, "Something went wrong.", "the stack"))
    assert bar.offer.isHidden() and not bar.details.isHidden()
    desk.deleteLater()


def test_what_nobody_had_time_to_read_comes_back(notices: Notices, monkeypatch: pytest.MonkeyPatch) -> None:
    """On opening, kept changes are offered and a run that was broken off is told of in the same moment:
    neither hides the other for good."""
    taken: list[str] = []
    desk = Desks()
    bar = NoticeBar(desk, notices, lambda: None)
    notices.note("Changes were kept.", Offer("Take them", lambda: taken.append("kept")))
    notices.note("A run was broken off.", Offer("Go on with it", lambda: taken.append("on")))
    assert bar.sentence == "A run was broken off."
    bar.offer.click()
    assert taken == ["on"] and bar.sentence == "Changes were kept." and not bar.isHidden() and notices.said
    bar.offer.click()
    assert taken == ["on", "kept"] and bar.isHidden() and not notices.said
    # What was done can be seen anyway, and the same is not said twice.
    notices.done("Saved.")
    notices.note("Look.")
    notices.note("Look.")
    bar.put_away()
    assert bar.isHidden()
    # What stood long enough was read; and with another project nothing of before counts.
    monkeypatch.setattr(notice_bar, "READ_S", 0.0)
    notices.note("Read.")
    notices.note("Newer.")
    bar.put_away()
    assert bar.isHidden()
    monkeypatch.setattr(notice_bar, "READ_S", 60.0)
    notices.note("Of this project.")
    notices.note("Of this one, too.")
    notices.clear()
    notices.note("Of another.")
    bar.put_away()
    assert bar.isHidden()
    desk.deleteLater()


def test_the_log_is_written_and_stays_small(tmp_path: object, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("ALTANA_STATE", str(tmp_path))
    level = logging.getLogger().level
    try:
        start_log()
        for number in range(3):
            logging.getLogger("altana.test").error("number %d", number)
        assert "number 2" in log_file().read_text()
        sizes = [
            item.maxBytes
            for item in logging.getLogger().handlers
            if isinstance(item, logging.handlers.RotatingFileHandler)
        ]
        assert sizes and sizes[-1] <= 2_000_000
    finally:
        stop_log()
        logging.getLogger().setLevel(level)


# ---------------------------------------------------------------------- the children


@pytest.fixture
def child(application: QApplication) -> Iterator[Child]:
    stumbling = Child("tests.stumbling:worker", "stumbling")
    yield stumbling
    stumbling.close()


def test_a_child_that_fails_says_at_what_and_sends_its_stack(
    child: Child, caplog: pytest.LogCaptureFixture
) -> None:
    replies: list[Reply] = []
    child.answered.connect(lambda answer: replies.append(answer.reply))
    with caplog.at_level(logging.ERROR):
        child.send(Task("survey", 1, 0, Survey()))
        until(lambda: replies, 20)
    (failure,) = replies
    assert (
        isinstance(failure, Failure) and failure.order == "Survey" and "the worker stumbled" in failure.trace
    )
    assert "the worker stumbled" not in failure.sentence and "the worker stumbled" in caplog.text


@pytest.mark.slow
def test_an_order_that_kills_its_child_is_tried_twice_and_then_comes_to_nothing(child: Child) -> None:
    answers: list[Answer] = []
    child.answered.connect(answers.append)
    child.restarted.connect(child.send_again)
    child.send(Task("seen", 7, 0, See({})))
    until(lambda: answers, 30)
    assert (
        answers[0].revision == 7 and isinstance(answers[0].reply, Failure) and answers[0].reply.order == "See"
    )
    # It serves on.
    child.send(Task("survey", 8, 0, Survey()))
    until(lambda: len(answers) == 2, 20)


@pytest.mark.slow
def test_a_child_that_dies_again_and_again_is_given_up_and_it_is_said(child: Child) -> None:
    given_up: list[bool] = []
    child.given_up.connect(lambda: given_up.append(True))
    child.restarted.connect(lambda: child.send(Task("seen", 1, 0, See({}))))
    child.send(Task("seen", 1, 0, See({})))
    until(lambda: given_up, 60)
    child.send(Task("survey", 2, 0, Survey()))


@pytest.mark.slow
def test_each_child_of_the_window_may_be_killed_at_rest_and_at_work(window: MainWindow) -> None:
    studio = window.workspace.studio
    shown: list[str] = []
    studio.picture.connect(lambda channel, *_: shown.append(channel))
    studio.plan.connect(lambda channel, *_: shown.append(channel))
    studio.light_progress.connect(lambda share: shown.append("light" if share >= 1.0 else ""))
    seen: list[object] = []
    studio.seen.connect(seen.append)
    for child, comes in ((studio.pictures, "frame"), (studio.drafting, "plan"), (studio.lighting, "light")):
        # At rest.
        restarts = child.service.restarts
        shown.clear()
        os.kill(child.service.process_id, signal.SIGKILL)
        until(lambda child=child, restarts=restarts: child.service.restarts > restarts, 20)  # type: ignore[misc]
        if child is studio.drafting:
            # What was drawn before stays; the next plan comes from the new child.
            studio.order_plan("plan", 0.0, 1.3)
        until(lambda comes=comes: comes in shown, 40)  # type: ignore[misc]
    # At work: what was asked for is asked for again.
    studio.order_seen(window.workspace.bridge.project.cameras)
    os.kill(studio.pictures.service.process_id, signal.SIGKILL)
    until(lambda: seen, 60)
    walks: list[object] = []
    studio.walk_checked.connect(lambda walk, flags: walks.append(walk))
    studio.order_walk_check(window.workspace.bridge.project.walks[0], window.workspace.bridge.project.limits)
    os.kill(studio.drafting.service.process_id, signal.SIGKILL)
    until(lambda: walks, 60)


def test_a_fault_that_comes_again_is_said_again_once_its_line_was_closed(
    notices: Notices, told: list[Notice]
) -> None:
    notices.fault("In the window", "Traceback\nRuntimeError: boom")
    notices.fault("In the window", "Traceback\nRuntimeError: boom")
    assert len(told) == 1
    notices.clear()
    notices.fault("In the window", "Traceback\nRuntimeError: boom")
    assert len(told) == 2
