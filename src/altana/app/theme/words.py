"""The one place through which every sentence of the window passes, in the language that was chosen.

Sentences stand in the code in English.  ``tr`` is for those of the window, ``spoken`` for those that come
from behind it (what the core refuses, what a check found): they are known by their pattern.  Both look in the
same catalogue, which Qt's own tools make (``scripts/translate``).
"""

from __future__ import annotations

import json
import os
import re
from functools import lru_cache
from pathlib import Path
from string import Formatter

from PySide6.QtCore import QDateTime, QLibraryInfo, QLocale, QSettings, QTranslator
from PySide6.QtWidgets import QApplication

from altana.app.theme.lengths import wording

CATALOGUES = Path(__file__).parents[1] / "translations"
#: The languages there are, each by its own name.
LANGUAGES = {"en": "English", "de": "Deutsch"}
#: Where the choice is kept; empty follows the desktop.
KEY = "preferences/language"
#: Sentences from behind the window stand in this context of the catalogue.
BEHIND = "Behind"
_PLACE = re.compile(r"\{(\w*)(?::[^}]*)?\}")


class _Numbers(Formatter):
    """Fills in figures with the decimal sign that is preferred."""

    def format_field(self, value: object, format_spec: str) -> str:
        text: str = super().format_field(value, format_spec)
        return wording.number(text) if isinstance(value, float) else text


def _catalogue(code: str) -> QTranslator:
    translator = QTranslator()
    translator.load(f"altana_{code}.qm", str(CATALOGUES))
    return translator


class Language:
    """The language that is spoken, and its catalogue."""

    def __init__(self) -> None:
        self.code = "en"
        self.catalogue = _catalogue("en")
        #: Patterns of sentences from behind, by the word they begin with; those that begin with a place under
        #: an empty one.
        self.patterns: dict[str, list[tuple[re.Pattern[str], str]]] = {}

    def choose(self, code: str) -> None:
        """Speak this language from now on.  What was said before stays; so it is chosen before there is a
        window."""
        self.code = code if code in LANGUAGES else "en"
        self.catalogue = _catalogue(self.code)
        self.patterns = {}
        spoken.cache_clear()
        if self.code != "en":
            self._read_patterns()

    def _read_patterns(self) -> None:
        for source in json.loads((CATALOGUES / "sentences.json").read_text("utf-8")):
            if not _PLACE.search(source):
                continue
            begin = _first_word(source)
            self.patterns.setdefault("" if "{" in begin else begin, []).append((_pattern(source), source))
        for pattern in self.patterns.values():
            # The one that says most by itself is tried first.
            pattern.sort(key=lambda item: -len(_PLACE.sub("", item[1])))

    def of_qt(self, application: QApplication) -> None:
        """What Qt itself says, in dialogs and menus of fields, in the same language."""
        own = QTranslator(application)
        if own.load(
            QLocale(self.code), "qtbase", "_", QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)
        ):
            application.installTranslator(own)


#: What the window speaks.
language = Language()


def wanted(settings: QSettings) -> str:
    """The language that was chosen in the preferences, or that of the desktop."""
    chosen = os.environ.get("ALTANA_LANGUAGE") or str(settings.value(KEY, ""))
    return chosen if chosen in LANGUAGES else of_desktop()


def of_desktop() -> str:
    """The first language of the desktop that there is."""
    for name in QLocale.system().uiLanguages():
        if (code := name.split("-")[0].lower()) in LANGUAGES:
            return code
    return "en"


def tr(text: str, comment: str = "", number: int = -1, /, **values: object) -> str:
    """A sentence of the window in its language, with the values filled in.

    ``number`` chooses between one and several and stands for ``%n``; ``comment`` tells apart what is spelled
    alike.
    """
    # English has a catalogue for one and several only.
    known = number >= 0 or language.code != "en"
    translation = (language.catalogue.translate("", text, comment, number) if known else "") or text
    if number >= 0:
        translation = translation.replace("%n", str(number))
    if not values:
        return translation
    try:
        return _numbers.vformat(translation, (), values) if wording.comma else translation.format(**values)
    except (KeyError, IndexError, ValueError):
        # A catalogue with a fault says it in English rather than not at all.
        return text.format(**values)


@lru_cache(maxsize=4096)
def spoken(sentence: str) -> str:
    """A sentence from behind the window, in the window's language; as it is where the catalogue does not know
    it."""
    if not language.patterns or not sentence:
        return sentence
    if exact := language.catalogue.translate(BEHIND, sentence):
        return exact
    for pattern, source in (
        *language.patterns.get(_first_word(sentence), ()),
        *language.patterns.get("", ()),
    ):
        match = pattern.fullmatch(sentence)
        translated = language.catalogue.translate(BEHIND, source) if match else ""
        if match and translated:
            return _filled(translated, match.groupdict(""))
    # Several that stand together are looked up one by one.
    for gap in ("\n", ". "):
        if len(lines := sentence.split(gap)) > 1:
            stop = gap.strip()
            lines_spoken = [spoken(line + stop) for line in lines[:-1]] + [spoken(lines[-1])]
            return gap.strip(".").join(lines_spoken)
    return sentence


def moment(seconds: float, exact: bool = False) -> str:
    """A moment (seconds since 1970) as day, month and time of day here, in words that stay on one line: ``29
    Nov 18:28``."""
    #: A moment in Qt's letters for day, month and time of day, as dates are written in the language.
    pattern = tr("d MMMM HH:mm:ss") if exact else tr("d MMM HH:mm")
    words = QLocale(language.code).toString(QDateTime.fromSecsSinceEpoch(int(seconds)), pattern)
    return words.replace(" ", "\N{NO-BREAK SPACE}")


def capital(text: str) -> str:
    """A text that begins with a capital letter; the others stay as they are, for nouns of some languages have
    theirs."""
    return text[:1].upper() + text[1:]


def _filled(translated: str, parts: dict[str, str]) -> str:
    """A sentence with what stood in the places of the other one; whole sentences in them are translated
    too."""
    pieces = _split(translated)
    for at in range(1, len(pieces), 2):
        part = parts.get(f"p{pieces[at]}", "")
        pieces[at] = spoken(part) if " " in part else part
    return "".join(pieces)


def _split(source: str) -> list[str]:
    """Words and names of places in turn; places without a name are numbered as they come."""
    parts = _PLACE.split(source)
    for at in range(1, len(parts), 2):
        parts[at] = parts[at] or str(at // 2)
    return parts


def _first_word(text: str) -> str:
    return text.split(" ", 1)[0]


def _pattern(source: str) -> re.Pattern[str]:
    parts = _split(source)
    names = parts[1::2]
    for at in range(1, len(parts), 2):
        # What stands in two places is the same in both.
        first = names.index(parts[at]) == at // 2
        # One that stands right before another is a sentence.
        end = r"\." if parts[at + 1] == " " else ""
        parts[at] = f"(?P<p{parts[at]}>.*?{end})" if first else f"(?P=p{parts[at]})"
    for at in range(0, len(parts), 2):
        parts[at] = re.escape(parts[at])
    return re.compile("".join(parts), re.DOTALL)


_numbers = _Numbers()
