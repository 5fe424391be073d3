"""Expected times in the window's language."""

from __future__ import annotations

import re

from altana.app.theme.words import tr
from altana.jobs.estimates import time_words
from altana.jobs.paces import Expected


def times(expected: Expected, about: bool = True) -> str:
    """An expected time, or from which to which while little is known; ``about`` says that it is one where it
    is one."""
    # A figure stays with its unit where a line breaks.
    words = re.sub(r"(?<=\d) (?=\w)(?!to)", "\N{NO-BREAK SPACE}", time_words(expected))
    low, _, high = words.partition(" to ")
    if high:
        return tr("{low} to {high}", low=low, high=high)
    time = words.removeprefix("about ")
    return tr("about {time}", time=time) if about else time
