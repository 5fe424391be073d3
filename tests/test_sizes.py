"""Rooms stay small: files, classes and functions everywhere; in the window what an object keeps, too."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

ALTANA = Path(__file__).parents[1] / "src" / "altana"
APP = ALTANA / "app"
FILE_LINES, CLASS_LINES, FUNCTION_LINES, ATTRIBUTES = 450, 300, 50, 20


def too_large(path: Path) -> Iterator[str]:
    text = path.read_text("utf-8")
    where = path.relative_to(ALTANA)
    if (lines := len(text.splitlines())) > FILE_LINES:
        yield f"{where}: {lines} lines"
    for node in rooms(ast.parse(text)):
        lines = (node.end_lineno or 0) - node.lineno + 1
        if lines > (CLASS_LINES if isinstance(node, ast.ClassDef) else FUNCTION_LINES):
            yield f"{where} {node.name}: {lines} lines"
        if (
            APP in path.parents
            and isinstance(node, ast.ClassDef)
            and len(kept := attributes(node)) > ATTRIBUTES
        ):
            yield f"{where} {node.name}: keeps {len(kept)} things"


def rooms(of: ast.AST) -> Iterator[ast.ClassDef | ast.FunctionDef]:
    """Classes and functions, wherever they stand: only what may hold one is looked through."""
    for node in ast.iter_child_nodes(of):
        if isinstance(node, ast.ClassDef | ast.FunctionDef):
            yield node
        if isinstance(node, ast.stmt | ast.ExceptHandler | ast.match_case):
            yield from rooms(node)


def attributes(of: ast.ClassDef) -> set[str]:
    """What the methods of a class keep in it."""
    return {
        node.attr
        for node in ast.walk(of)
        if isinstance(node, ast.Attribute)
        and isinstance(node.ctx, ast.Store)
        and isinstance(node.value, ast.Name)
        and node.value.id == "self"
    }


def test_rooms_stay_small() -> None:
    assert not [what for path in sorted(ALTANA.rglob("*.py")) for what in too_large(path)]


def test_what_is_too_large_is_found() -> None:
    body = "\n".join(f"        self.a{number} = {number}" for number in range(ATTRIBUTES + 1))
    large, much = rooms(ast.parse(f"if True:\n  class Large:\n    def much(self):\n{body}\n"))
    assert (
        isinstance(large, ast.ClassDef) and len(attributes(large)) == ATTRIBUTES + 1 and much.name == "much"
    )
