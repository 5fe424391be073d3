"""How work says how far it is.  A listener that answers False asks it to stop."""

from __future__ import annotations

from collections.abc import Callable

#: Told a share from 0 to 1; whether to go on.
Progress = Callable[[float], bool]
#: Told a share from 0 to 1 and what is being done; whether to go on.
NamedProgress = Callable[[float, str], bool]
#: Told a share and what is being done, by work that is stopped otherwise.
Telling = Callable[[float, str], None]
