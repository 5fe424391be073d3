"""Reading the colour tables that a tone names, from the project's folder."""

from __future__ import annotations

from pathlib import Path

from altana.core.errors import UserError
from altana.core.light.tables import ColourTable, table_of
from altana.core.project import Tone
from altana.storage.project_file import beside

SUFFIX, FOLDER = ".cube", "tables"
LARGEST_BYTES = 80_000_000


def read_table(path: Path) -> ColourTable:
    """A colour table from its file.  Raises UserError."""
    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise ValueError(f"it is larger than {LARGEST_BYTES // 1_000_000} MB")
        return table_of(path.read_text(encoding="utf-8", errors="replace"))
    except FileNotFoundError as error:
        raise UserError(f"The colour table {path.name} is not there. Copy it into the project's folder, or choose another.") from error
    except (OSError, ValueError) as error:
        raise UserError(f"{path.name} cannot be used as a colour table: {error}. Nothing was changed; choose another file.") from error


def table_for(tone: Tone, base: Path) -> ColourTable | None:
    """The colour table of a tone; None where it has none, or counts for nothing.  Raises UserError."""
    return read_table(beside(base, tone.table, "colour table")) if tone.table and tone.table_share > 0.0 else None
