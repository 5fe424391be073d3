"""The other files that a model names: found in its own folder or below it, by bare name and in any case, and
nowhere else."""

from __future__ import annotations

import os
import re
from pathlib import Path
from urllib.parse import unquote

from altana.core.model import Problem
from altana.importers.raw import RawModel

#: A folder of more files than this is not searched through.
MOST_FILES = 20_000
#: Endings of files that hold things themselves, not only how these look.
LAYERS = (".usd", ".usda", ".usdc", ".usdz")
#: A named file is read up to this size, bytes.
LARGEST_BYTES = 4 << 30


class ModelFolder:
    """Files beside a model by the names it gives them; remembers what was read and what was missing."""

    def __init__(self, model: Path) -> None:
        self.base = model.resolve().parent
        self.read: list[str] = []
        self.missing: list[str] = []
        self._by_name: dict[str, Path] | None = None

    def find(self, name: str) -> Path | None:
        """The file of a name, or None: as it is written, else by its bare name, whatever its case and
        slashes."""
        written = unquote(str(name)).replace("\\", "/").strip().strip('"')
        written = re.sub(r"^file://+", "/", written)
        if "\0" in written or not written or len(written) > 4000:
            return None
        try:
            direct = (self.base / written).resolve()
            if direct.is_relative_to(self.base) and direct.is_file():
                return direct
        except (OSError, RuntimeError):
            pass
        return self._known().get(written.rsplit("/", 1)[-1].casefold())

    def _known(self) -> dict[str, Path]:
        if self._by_name is None:
            self._by_name = {}
            count = 0
            for folder, below, names in os.walk(self.base):
                below[:] = sorted(item for item in below if not item.startswith("."))
                for item in sorted(names):
                    path = Path(folder, item)
                    if not path.is_symlink() and path.is_file():
                        self._by_name.setdefault(item.casefold(), path)
                count += len(names)
                if count > MOST_FILES:
                    break
        return self._by_name

    def bytes_of(self, name: str) -> bytes | None:
        """The content of a named file, or None where it is not in the folder; then its name is kept as
        missing."""
        path = self.find(name)
        try:
            if path is not None and path.stat().st_size <= LARGEST_BYTES:
                data = path.read_bytes()
                self.read.append(str(path.relative_to(self.base)))
                return data
        except OSError:
            pass
        self.missing.append(str(name))
        return None

    def tell(self, raw: RawModel) -> None:
        """Say what was missing, all of it by name."""
        names = sorted({re.split(r"[\\/]", name)[-1] for name in self.missing})
        layers = [name for name in names if name.lower().endswith(LAYERS)]
        pictures = [name for name in names if name not in layers]
        if pictures:
            raw.problems.append(
                Problem(
                    "missing-files",
                    f"{_count(pictures)} not in the model's folder: {', '.join(pictures)}. Plain colours stand in; put them there and reload.",
                )
            )
        if layers:
            raw.problems.append(
                Problem(
                    "missing-files",
                    f"{_count(layers)} not in the model's folder: {', '.join(layers)}. What is in there is not shown; put them there and reload.",
                )
            )


def _count(names: list[str]) -> str:
    return f"{len(names)} files are" if len(names) > 1 else "One file is"
