"""Material libraries of OBJ files (MTL): colours, opacity, gloss and pictures, with the options that stand
before their names."""

from __future__ import annotations

import numpy as np

from altana.core.model import CLAMP, GLASS, MASK, OPAQUE, REPEAT, SOLID, Maps, Material
from altana.importers.finish import SOLID_FROM, as_mirror, is_mirror, is_silvered, kind_of, pane_roughness
from altana.importers.folder import ModelFolder
from altana.importers.naming import text_of
from altana.importers.pictures import encoded_has_opacity, keep_picture
from altana.importers.raw import RawModel

#: Options of picture statements and how many words follow each at most.
OPTIONS = {
    "-blendu": 1, "-blendv": 1, "-bm": 1, "-boost": 1, "-cc": 1, "-clamp": 1, "-imfchan": 1, "-mm": 2,
    "-o": 3, "-s": 3, "-t": 3, "-texres": 1, "-type": 1, "-colorspace": 1,
}  # fmt: skip

#: The kinds of light (illum) by which a material asks for refraction, and those by which it asks for a
#: picture of what lies around it.
REFRACTING, REFLECTING = (6.0, 7.0), (3.0, 5.0, 8.0)


class Library:
    """The materials of one OBJ file, by name."""

    def __init__(self, folder: ModelFolder, raw: RawModel) -> None:
        self._folder, self._raw = folder, raw
        self._told: dict[str, dict[str, str]] = {}
        self._known: dict[str, int] = {}
        self._pictures: dict[str, int] = {}

    def read(self, names: str) -> None:
        """Take in a library; ``names`` is one name, which may hold spaces, or several."""
        data = (
            self._folder.bytes_of(names) if self._folder.find(names) is not None or " " not in names else None
        )
        if data is None and " " in names:
            for name in names.split():
                self.read(name)
            return
        current: dict[str, str] = {}
        for line in text_of(data or b"").splitlines():
            word, _, rest = line.strip().replace("\t", " ").partition(" ")
            if word == "newmtl":
                current = self._told.setdefault(rest.strip(), {})
            elif word and not word.startswith("#"):
                current[word.lower()] = rest.strip()

    def number(self, name: str) -> int:
        """The model's number of a material; one that no library tells of is plain."""
        if name not in self._known:
            self._known[name] = len(self._raw.materials)
            self._raw.materials.append(
                self._material(name)
                if name in self._told
                else Material(name or "Plain", (0.78, 0.76, 0.72, 1.0))
            )
        return self._known[name]

    def _material(self, name: str) -> Material:
        entry = self._told[name]
        colour = np.append(_three(entry.get("kd"), 0.7), self._opacity(entry))
        image = self._picture(entry, "map_kd", "map_ka")
        if image >= 0 and colour[:3].max() < 0.02:
            # Many writers leave the colour black where a picture stands for it.
            colour[:3] = 1.0
        maps = Maps(
            normal=self._picture(entry, "norm", "map_bump", "bump", "map_kn"),
            emission=self._picture(entry, "map_ke"),
            opacity=self._picture(entry, "map_d", "map_tr"),
        )
        holes = maps.opacity >= 0 or (image >= 0 and encoded_has_opacity(self._raw.images[image].data))
        kind = kind_of(name, float(colour[3]), image >= 0)
        if holes and colour[3] >= SOLID_FROM:
            kind = SOLID
        material = Material(
            name,
            tuple(np.clip(colour, 0.0, 1.0).tolist()),
            image,
            self._roughness(entry, kind != SOLID)
            if kind != GLASS
            else pane_roughness(name, _number(entry["pr"], 0.1) if "pr" in entry else None),
            kind,
            float(np.clip(_number(entry.get("pm"), 0.0), 0.0, 1.0)),
            tuple(np.clip(_three(entry.get("ke"), 0.0), 0.0, 1e4).tolist()),
            MASK if holes else OPAQUE,
            0.5,
            float(np.clip(_number(entry.get("ni"), 1.5), 1.0, 4.0))
            if _number(entry.get("ni"), 1.5) > 1.0
            else 1.5,
            maps,
            wraps=(CLAMP, CLAMP) if _clamped(entry.get("map_kd", "")) else (REPEAT, REPEAT),
            solid_glass=kind == GLASS and _number(entry.get("illum"), 2.0) in REFRACTING,
        )
        if image >= 0 or kind != SOLID or "pm" in entry or "pr" in entry:
            return material
        shine = _three(entry.get("ks"), 0.0)
        asked = _number(entry.get("illum"), 2.0) in REFLECTING
        if asked and is_silvered(colour[:3].tolist(), shine):
            return as_mirror(material, shine)
        return as_mirror(material) if is_mirror(name) else material

    @staticmethod
    def _opacity(told: dict[str, str]) -> float:
        """``d`` is opacity, ``Tr`` what is let through; where both stand, the one that says something."""
        solid = _number((told.get("d") or "").replace("-halo", ""), 1.0)
        if "d" in told and ("tr" not in told or solid < 1.0):
            return float(np.clip(solid, 0.0, 1.0))
        through = _number(told.get("tr"), 0.0)
        # Some writers mean opacity by Tr; a thing that is not there at all is not what anybody wrote down.
        return float(np.clip(1.0 - through, 0.0, 1.0)) if through < 1.0 else 1.0

    @staticmethod
    def _roughness(told: dict[str, str], clear: bool) -> float:
        if "pr" in told:
            return float(np.clip(_number(told["pr"], 0.8), 0.0, 1.0))
        shine = _number(told.get("ns"), -1.0)
        strong = max(_three(told.get("ks"), 0.0))
        if shine > 0.0 and strong > 0.05:
            # The exponent of a highlight as the roughness that spreads it as wide.
            return float(np.clip((2.0 / (shine + 2.0)) ** 0.25, 0.05, 1.0))
        return 0.1 if clear else 0.8

    def _picture(self, told: dict[str, str], *words: str) -> int:
        for word in words:
            name = _file_of(told.get(word, ""))
            if not name:
                continue
            if name not in self._pictures:
                self._pictures[name] = keep_picture(
                    self._raw, name.replace("\\", "/").rsplit("/", 1)[-1], self._folder.bytes_of(name)
                )
            return self._pictures[name]
        return -1


def _file_of(statement: str) -> str:
    """The name in a picture statement, which may hold spaces, without the options before it."""
    words = statement.split()
    return " ".join(words[_name_at(words) :]).strip("\"'")


def _clamped(statement: str) -> bool:
    """Whether the picture of a statement ends at its edges."""
    words = statement.lower().split()
    options = words[: _name_at(words)]
    return "-clamp" in options and options[options.index("-clamp") + 1 :][:1] == ["on"]


def _name_at(words: list[str]) -> int:
    """The number of the word with which the name begins."""
    at = 0
    while at < len(words) and words[at].lower() in OPTIONS:
        most = OPTIONS[words[at].lower()]
        at += 1
        taken = 0
        while at < len(words) and taken < most and (most == 1 or _is_number(words[at])):
            at += 1
            taken += 1
    return at


def _is_number(word: str) -> bool:
    try:
        float(word)
    except ValueError:
        return False
    return True


def _number(text: str | None, usual: float) -> float:
    words = (text or "").split()
    return float(words[0]) if words and _is_number(words[0]) and np.isfinite(float(words[0])) else usual


def _three(text: str | None, usual: float) -> list[float]:
    words = [word for word in (text or "").split() if _is_number(word)]
    if len(words) == 1:
        words = words * 3
    return [float(word) for word in words[:3]] if len(words) >= 3 else [usual] * 3
