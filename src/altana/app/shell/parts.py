"""The parts of the window that commands refer to."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtWidgets import QWidget

from altana.app.compose.desk import ComposeDesk
from altana.app.hand_over.desk import HandOverDesk
from altana.app.light.panel import LightPanel
from altana.app.model.desk import ModelDesk
from altana.app.shell.camera_actions import CameraActions
from altana.app.shell.exchange import Exchange
from altana.app.shell.files import ProjectFiles
from altana.app.shell.going import Going
from altana.app.shell.making import Making
from altana.app.shell.models import ModelActions
from altana.app.shell.search import SearchField
from altana.app.walk.desk import WalkDesk
from altana.app.workspace.workspace import Workspace


@dataclass(frozen=True, slots=True)
class Parts:
    """``show_light``, ``show_preferences``, ``show_about``, ``show_keys`` and ``show_menu`` open the panel of
    the light, the preferences, the page of licences, the page of keys and the menu."""

    window: QWidget
    workspace: Workspace
    compose: ComposeDesk
    model: ModelDesk
    walk: WalkDesk
    hand_over: HandOverDesk
    files: ProjectFiles
    cameras: CameraActions
    models: ModelActions
    making: Making
    exchange: Exchange
    going: Going
    search: SearchField
    light: LightPanel
    show_light: Callable[[], object]
    show_preferences: Callable[[], object]
    show_about: Callable[[], object]
    show_keys: Callable[[], object]
    show_menu: Callable[[], object]
