"""Brings the catalogues of the window's sentences up to date, by Qt's own tools, and compiles them.

    .venv/bin/python scripts/translate.py           after sentences were added or changed; then fill in what
    is empty in altana_de.ts, and run it again .venv/bin/python scripts/translate.py --check    fails when the
    catalogues are not up to date, or not complete

Sentences of the window are those in ``tr("…")``.  Sentences from behind it, which it shows with ``told(…)``,
are all texts of the packages below that read as one; they go into ``sentences.json`` too, because the window
knows them by their pattern.
"""

from __future__ import annotations

import ast
import importlib
import json
import re
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from xml.etree import ElementTree

SOURCE = Path(__file__).parents[1] / "src" / "altana"
CATALOGUES = SOURCE / "app" / "translations"
BEHIND = ("core", "jobs", "storage", "importers", "exchange", "render")
#: Words of the core whose English is a key and is shown through ``spoken(…)``: these tables, names of tuples
#: or of what is in their first place.
TABLES = (
    "altana.core.project:RENDITIONS BACKGROUNDS GROUNDS QUALITY_WORDS SKIES SURROUNDINGS_USES",
    "altana.core.project.camera:GUIDES",
    "altana.core.moving:WAYS",
    "altana.core.edits.formats:DESTINATIONS FILM_SIZES",
    "altana.core.styles:STYLES",
    "altana.core.targets:TARGETS",
    "altana.jobs.following:WAITING DRAWING MADE ASIDE OUT",
    "altana.app.theme.lengths:UNITS",
    "altana.app.workspace.preferences:DESKTOP",
    "altana.render.encode:STAMPS CORNERS",
)
#: Further words of that sort: what has changed since a row was made, shares of a picture, ways to fit, sides
#: and axes.
WORDS = (
    "camera size quality tone light mends model floor ceiling ground lens distance room inside outside east north up rise kept "
    "still film panorama walk turntable near far smooth action intent storey even corner metre foot inch millimetre centimetre "
    "format exposure tilt plumb bounds shift eye direction remark"
).split()
#: What things are in a building, as IFC and most models call it.
CATEGORIES = (
    "Wall,Curtain wall,Window,Door,Roof,Slab,Floor,Ceiling,Column,Beam,Member,Plate,Covering,Railing,Stair,Ramp,Furniture,Glazing,Sign,Land,"
    "Lamp,Plant,Site,Space,Footing,Pipe,Duct,Equipment,Water,Tree,Vehicle,Person,Other"
).split(",")
#: Sentences that the core puts together from parts with one word each.
PARTS = ("{0} objects are", "{0} objects have", "“{0}” is", "“{0}” has")
#: What is passed to these is for a log, a pattern or a programmer.
NOT_SHOWN = frozenset(
    "info warning error debug exception getLogger compile setdefault AssertionError RuntimeError ValueError TypeError KeyError IndexError MemoryError sub match "
    "fullmatch search split startswith endswith encode field Meta program".split()
)
#: Code of other languages that stands in strings.
CODE = re.compile(
    r"#version|gl_|uniform |</?[a-z?!]|xmlns|[{};]\n|^\s*\.|\bstroke|void main|\w+\(\w*\);|--\w+="
)


def sentences() -> list[str]:
    """Every text behind the window that may come to be seen, with ``{0}``, ``{1}`` where values stand."""
    found: dict[str, None] = dict.fromkeys([*_tables(), *WORDS, *CATEGORIES, *PARTS])
    for package in BEHIND:
        for path in sorted((SOURCE / package).rglob("*.py")):
            for text in _texts(ast.parse(path.read_text("utf-8"))):
                found.setdefault(text)
    return list(found)


def _tables() -> Iterator[str]:
    for line in TABLES:
        module, _, names = line.partition(":")
        for name in names.split():
            table = getattr(importlib.import_module(module), name)
            for item in [table] if isinstance(table, str) else table:
                word = item if isinstance(item, str) else getattr(item, "name", "") or item[0]
                if re.search(r"[A-Za-z]{2}", word):
                    yield word


def _texts(tree: ast.Module) -> Iterator[str]:
    above = {child: node for node in ast.walk(tree) for child in ast.iter_child_nodes(node)}
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            text = _template(node)
        elif isinstance(node, ast.Constant) and isinstance(node.value, str):
            if isinstance(above[node], ast.JoinedStr | ast.Expr):
                continue
            text = node.value
        else:
            continue
        if _reads_as_a_sentence(text) and not _for_programmers(node, above):
            yield text


def _template(node: ast.JoinedStr) -> str:
    parts, count = [], 0
    for part in node.values:
        if isinstance(part, ast.Constant):
            parts.append(str(part.value))
        else:
            parts.append(f"{{{count}}}")
            count += 1
    return "".join(parts)


def _reads_as_a_sentence(text: str) -> bool:
    plain = re.sub(r"\{\d+\}", "", text)
    return " " in plain.strip() and len(re.findall(r"[A-Za-z]{2,}", plain)) >= 2 and not CODE.search(text)


def _for_programmers(node: ast.AST, above: dict[ast.AST, ast.AST]) -> bool:
    while (parent := above.get(node)) is not None:
        if isinstance(parent, ast.Call) and node is not parent.func:
            called = parent.func
            name = called.attr if isinstance(called, ast.Attribute) else getattr(called, "id", "")
            return name in NOT_SHOWN
        if isinstance(parent, ast.stmt):
            return False
        node = parent
    return False


def tool(name: str, *arguments: str) -> None:
    """One of Qt's tools, as it comes with PySide6."""
    done = subprocess.run(
        [str(Path(sys.executable).parent / f"pyside6-{name}"), *arguments],
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode:
        raise SystemExit(done.stdout + done.stderr)


def update(folder: Path) -> None:
    """Write what there is to translate into the catalogues of a folder, and compile them."""
    behind = sentences()
    (folder / "sentences.json").write_text(
        json.dumps([text for text in behind if "{" in text], ensure_ascii=False, indent=0) + "\n", "utf-8"
    )
    with tempfile.TemporaryDirectory() as scratch:
        listed = Path(scratch) / "behind.py"
        listed.write_text(
            "".join(
                f'QCoreApplication.translate("Behind", {json.dumps(text, ensure_ascii=False)})\n'
                for text in behind
            ),
            "utf-8",
        )
        window = sorted(str(path) for path in (SOURCE / "app").rglob("*.py"))
        tidy = ("-locations", "none", "-no-obsolete", "-source-language", "en")
        german, english = folder / "altana_de.ts", folder / "altana_en.ts"
        tool("lupdate", *window, str(listed), *tidy, "-target-language", "de", "-ts", str(german))
        # English needs no catalogue but for one and several.
        tool("lupdate", *window, *tidy, "-target-language", "en", "-pluralonly", "-ts", str(english))
    for path in (german, english):
        tool("lrelease", "-silent", str(path), "-qm", str(path.with_suffix(".qm")))


def unfinished(path: Path) -> list[str]:
    """The sentences that a catalogue lacks."""
    tree = ElementTree.parse(path)
    return [
        message.findtext("source", "")
        for message in tree.iter("message")
        if (said := message.find("translation")) is None or said.get("type") == "unfinished"
    ]


def main() -> int:
    """Update, or check."""
    if "--check" not in sys.argv:
        update(CATALOGUES)
        for path in sorted(CATALOGUES.glob("*.ts")):
            print(f"{path.name}: {len(unfinished(path))} sentences to translate")
        return 0
    with tempfile.TemporaryDirectory() as scratch:
        folder = Path(scratch)
        for path in CATALOGUES.glob("*.ts"):
            (folder / path.name).write_bytes(path.read_bytes())
        update(folder)
        stale = [
            path.name
            for path in sorted(folder.iterdir())
            if path.read_bytes() != (CATALOGUES / path.name).read_bytes()
        ]
        lacking = [text for path in folder.glob("*.ts") for text in unfinished(path)]
    for name in stale:
        print(f"{name} is not up to date: run scripts/translate.py")
    for text in lacking:
        print(f"not translated: {text}")
    return 1 if stale or lacking else 0


if __name__ == "__main__":
    sys.exit(main())
