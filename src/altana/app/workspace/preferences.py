"""What a person prefers, kept for all projects: the chrome, the Frame's quality, autosave, keys."""

from __future__ import annotations

import os

from PySide6.QtCore import QLocale, QObject, QSettings, Signal

from altana.app.theme.lengths import UNITS
from altana.app.theme.words import KEY as LANGUAGE
from altana.app.theme.words import LANGUAGES
from altana.core.conventions import FOCAL_INSIDE_MM, FOCAL_OUTSIDE_MM, STANDING_M
from altana.core.ranges import FOCAL_MM, PASSES
from altana.jobs.children.looks import PASSES_SETTING

DESKTOP, LIGHT, DARK = "as the desktop", "light", "dark"
CHROMES = (DESKTOP, LIGHT, DARK)
POINT, COMMA = "1.60", "1,60"
DECIMALS = (POINT, COMMA, DESKTOP)
#: How often a picture at rest is drawn over itself, and how soon after a change it is kept, seconds.
USUAL_PASSES, USUAL_AUTOSAVE_S = 8, 4.0
AUTOSAVE_S = (1.0, 600.0)
SIZES = (100.0, 200.0)


class Preferences(QObject):
    """Reads and keeps preferences.  ``changed(name)`` after one was set."""

    changed = Signal(str)

    def __init__(self, settings: QSettings) -> None:
        super().__init__()
        self._settings = settings
        if self.frame_passes != USUAL_PASSES:
            # The children of the window read it when they start.
            os.environ.setdefault(PASSES_SETTING, str(self.frame_passes))

    def _number(self, name: str, usual: float, low: float, high: float) -> float:
        try:
            value = float(str(self._settings.value(f"preferences/{name}", usual)))
        except ValueError:
            return usual
        return value if low <= value <= high else usual

    def _set(self, name: str, value: object) -> None:
        self._settings.setValue(f"preferences/{name}", value)
        self.changed.emit(name)

    @property
    def chrome(self) -> str:
        """One of CHROMES."""
        value = str(self._settings.value("preferences/chrome", DESKTOP))
        return value if value in CHROMES else DESKTOP

    @chrome.setter
    def chrome(self, value: str) -> None:
        self._set("chrome", value)

    @property
    def language(self) -> str:
        """The code of the window's language, from the next start; empty as the desktop has it."""
        value = str(self._settings.value(LANGUAGE, ""))
        return value if value in LANGUAGES else ""

    @language.setter
    def language(self, value: str) -> None:
        self._set(LANGUAGE.rpartition("/")[2], value)

    @property
    def frame_passes(self) -> int:
        """How often a picture at rest in the Frame is drawn over itself."""
        return round(self._number("frame_passes", USUAL_PASSES, PASSES.low, PASSES.high))

    @frame_passes.setter
    def frame_passes(self, value: float) -> None:
        self._set("frame_passes", round(value))

    @property
    def size_percent(self) -> float:
        """How large everything in the window is, letters first, against the desktop's own scale."""
        return self._number("size_percent", 100.0, *SIZES)

    @size_percent.setter
    def size_percent(self, value: float) -> None:
        self._set("size_percent", round(value))

    @property
    def autosave_s(self) -> float:
        """So long after a change it is kept for the case of a crash."""
        return self._number("autosave_s", USUAL_AUTOSAVE_S, *AUTOSAVE_S)

    @autosave_s.setter
    def autosave_s(self, value: float) -> None:
        self._set("autosave_s", value)

    @property
    def eye_m(self) -> float:
        """How high above the floor a camera is stood."""
        return self._number("eye_m", STANDING_M, 0.05, 20.0)

    @eye_m.setter
    def eye_m(self, value: float) -> None:
        self._set("eye_m", value)

    @property
    def unit(self) -> str:
        """The unit in which lengths are told, one of UNITS."""
        value = str(self._settings.value("preferences/unit", UNITS[0]))
        return value if value in UNITS else UNITS[0]

    @unit.setter
    def unit(self, value: str) -> None:
        self._set("unit", value)

    @property
    def decimals(self) -> str:
        """What parts the decimals of a number, one of DECIMALS."""
        value = str(self._settings.value("preferences/decimals", DECIMALS[0]))
        return value if value in DECIMALS else DECIMALS[0]

    @decimals.setter
    def decimals(self, value: str) -> None:
        self._set("decimals", value)

    @property
    def comma(self) -> bool:
        """Whether a comma parts the decimals, as chosen or as the desktop has it."""
        return self.decimals == COMMA or (self.decimals == DESKTOP and QLocale.system().decimalPoint() == ",")

    @property
    def focal_inside_mm(self) -> float:
        """The lens of a new camera inside."""
        return self._number("focal_inside_mm", FOCAL_INSIDE_MM, FOCAL_MM.low, FOCAL_MM.high)

    @focal_inside_mm.setter
    def focal_inside_mm(self, value: float) -> None:
        self._set("focal_inside_mm", value)

    @property
    def focal_outside_mm(self) -> float:
        """The lens of a new camera outside."""
        return self._number("focal_outside_mm", FOCAL_OUTSIDE_MM, FOCAL_MM.low, FOCAL_MM.high)

    @focal_outside_mm.setter
    def focal_outside_mm(self, value: float) -> None:
        self._set("focal_outside_mm", value)

    @property
    def projects_folder(self) -> str:
        """Where projects are kept that were not saved yet; empty for the person's documents."""
        return str(self._settings.value("preferences/projects_folder", ""))

    @projects_folder.setter
    def projects_folder(self, value: str) -> None:
        self._set("projects_folder", value.strip())

    def keys(self, command_id: str, usual: str) -> str:
        """The keys of a command, as they were chosen or as they usually are."""
        return str(self._settings.value(f"keys/{command_id}", usual))

    def set_keys(self, command_id: str, keys: str, usual: str) -> None:
        """Other keys for a command; the usual ones are not kept."""
        if keys == usual:
            self._settings.remove(f"keys/{command_id}")
        else:
            self._settings.setValue(f"keys/{command_id}", keys)
        self.changed.emit("keys")

    def usual_keys(self) -> None:
        """All commands as they usually are."""
        self._settings.remove("keys")
        self.changed.emit("keys")


def size_before_start(settings: QSettings) -> None:
    """The chosen size of everything, told to Qt, which wants to know it before it starts; one that was set
    from outside holds."""
    percent = Preferences(settings).size_percent
    if percent != SIZES[0]:
        os.environ.setdefault("QT_SCALE_FACTOR", f"{percent / 100.0:g}")
