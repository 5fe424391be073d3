"""The rooms of the window keep to themselves: what lint cannot say of them."""

from __future__ import annotations

import ast
from pathlib import Path

APP = Path(__file__).parents[2] / "src/altana/app"


def imported(path: Path) -> set[str]:
    names: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            names |= {item.name for item in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            names |= {node.module, *(f"{node.module}.{item.name}" for item in node.names)}
    return names


def test_the_workspace_has_no_widgets() -> None:
    files = list((APP / "workspace").glob("*.py"))
    assert len(files) > 8
    for path in files:
        assert not [name for name in imported(path) if name.startswith("PySide6.QtWidgets")], path


def test_nobody_in_the_window_catches_everything() -> None:
    # The borders of threads and processes are the only places, and there it is logged.
    borders = {"background.py"}
    for path in APP.rglob("*.py"):
        handlers = [
            node for node in ast.walk(ast.parse(path.read_text())) if isinstance(node, ast.ExceptHandler)
        ]
        broad = [
            node.lineno
            for node in handlers
            if node.type is None or getattr(node.type, "id", "") in ("Exception", "BaseException")
        ]
        if path.name not in borders and not _puts_right(path, broad):
            assert not broad, f"{path}:{broad}"


def _puts_right(path: Path, lines: list[int]) -> bool:
    """Whether each of these handlers raises again what it caught."""
    handlers = {
        node.lineno: node
        for node in ast.walk(ast.parse(path.read_text()))
        if isinstance(node, ast.ExceptHandler)
    }
    return all(
        any(isinstance(node, ast.Raise) and node.exc is None for node in ast.walk(handlers[line]))
        for line in lines
    )
