"""The lights beside the project's that the Frame is to show: of the camera that is worked on, and of a walk
whose sun moves or whose lamps are dimmed."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QObject

from altana.app.workspace.bridge import Bridge
from altana.app.workspace.soon import Soon
from altana.app.workspace.studio import Studio
from altana.app.workspace.view_state import ViewState
from altana.core.light.own import light_with
from altana.core.project import Light
from altana.jobs.light import film_lights

#: A film of a whole day has a light for each hour, which is left to its run.
MOST_OF_A_WALK = 8
#: Only a camera that is looked at this long has its light computed.
SETTLED_MS = 900


class OwnLights(QObject):
    """Has their soft light computed once the project's own is known; until then they are drawn in the
    project's."""

    def __init__(self, bridge: Bridge, state: ViewState, studio: Studio) -> None:
        super().__init__()
        self._bridge, self._state, self._studio = bridge, state, studio
        self._soon = Soon(self, SETTLED_MS, self.ask)
        for signal in (state.shown_changed, state.walk_changed, bridge.settled, studio.opened):
            signal.connect(self._soon.start)

    def wanted(self) -> tuple[Light, ...]:
        """Each once, without the project's."""
        light, own = self._bridge.project.light, list[Light]()
        camera, walk = self._state.active, self._state.walk
        if camera is not None and camera.light:
            own.append(light_with(light, camera.light))
        if walk is not None and walk.turntable is None:
            hours, lamps = (
                np.array([getattr(key, name) for key in walk.keys], float) for name in ("hour", "lamps")
            )
            lights = film_lights(light, hours, lamps).all
            own += lights if len(lights) <= MOST_OF_A_WALK else ()
        return tuple(item for item in dict.fromkeys(own) if item != light)

    def ask(self) -> None:
        """Have those computed that are not known."""
        self._studio.light_also(self.wanted())
