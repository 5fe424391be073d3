"""Reading the colour tables that a tone names, from the project's folder."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path

from altana.core.errors import Refused, UserError
from altana.core.light.tables import ColourTable, table_of
from altana.core.project import Tone
from altana.storage.project_file import beside

SUFFIX, FOLDER = ".cube", "tables"
LARGEST_BYTES = 80_000_000


def read_table(path: Path) -> ColourTable:
    """A colour table from its file.  Raises UserError."""
    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise Refused(f"it is larger than {LARGEST_BYTES // 1_000_000} MB")
        return table_of(path.read_text(encoding="utf-8", errors="replace"))
    except FileNotFoundError as error:
        raise UserError(
            f"The colour table {path.name} is not there. Copy it into the project's folder, or choose another."
        ) from error
    except (OSError, Refused) as error:
        raise UserError(
            f"{path.name} cannot be used as a colour table: {error}. Nothing was changed; choose another file."
        ) from error


def table_for(tone: Tone, base: Path) -> ColourTable | None:
    """The colour table of a tone; None where it has none, or counts for nothing.  Raises UserError."""
    return (
        read_table(beside(base, tone.table, "colour table"))
        if tone.table and tone.table_share > 0.0
        else None
    )


@dataclass(slots=True)
class KeptTables:
    """Colour tables of a project's folder, each read once, and again after ``recheck`` where its file has
    changed."""

    base: Path
    _known: dict[str, tuple[ColourTable | UserError, tuple[int, int]]] = field(default_factory=dict)

    def of(self, tone: Tone) -> ColourTable | None:
        """The colour table of a tone; None where it has none, or counts for nothing.  Raises UserError."""
        if not tone.table or tone.table_share <= 0.0:
            return None
        if tone.table not in self._known:
            # Stamped before it is read: what is written meanwhile counts as a change.
            stamp, read = self._stamp(tone.table), None
            try:
                read = table_for(tone, self.base)
            except UserError as error:
                self._known[tone.table] = error, stamp
            if read is not None:
                self._known[tone.table] = read, stamp
        table = self._known[tone.table][0]
        if isinstance(table, UserError):
            raise table
        return table

    def recheck(self) -> None:
        """Forget what has changed on disk since it was read, or was not to be had."""
        for name in [name for name, (_, stamp) in self._known.items() if self._stamp(name) != stamp]:
            del self._known[name]

    def _stamp(self, name: str) -> tuple[int, int]:
        try:
            facts = beside(self.base, name, "colour table").stat()
        except (OSError, UserError):
            return 0, 0
        return facts.st_mtime_ns, facts.st_size
