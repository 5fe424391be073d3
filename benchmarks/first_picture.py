"""From starting `altana open` to the first picture in the Frame, against a bare window of the same imports.

``benchmarks/first_picture.py PROJECT`` with everything kept; the median of five, taken in turn, offscreen.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import time

BARE = """
import sys, time
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QMainWindow
import altana.app.shell.window
application = QApplication([])
window = QMainWindow()
window.show()
QTimer.singleShot(0, application.quit)
application.exec()
print(time.time() - float(sys.argv[1]))
"""
OPEN = """
import os, sys, time
from pathlib import Path
if __name__ == "__main__":
    import altana.app.shell.main as main
    first = main._first
    def opened(window, file):
        from PySide6.QtCore import QTimer
        made = first(window, file)
        timer = window.first_picture_timer = QTimer()
        def look():
            image = window.compose.frame.picture.image
            if image is not None and not image.isNull():
                print(time.time() - float(sys.argv[1]), flush=True)
                os._exit(0)
        timer.timeout.connect(look)
        timer.start(10)
        return made
    main._first = opened
    main.start(Path(sys.argv[2]))
"""


def took(script: str, *arguments: str) -> float:
    """Seconds that a script says it took."""
    settings = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    words = [sys.executable, script, str(time.time()), *arguments]
    return float(
        subprocess.run(words, capture_output=True, text=True, check=True, env=settings).stdout.split()[-1]
    )


def main() -> None:
    """Print both and their ratio."""
    import tempfile
    from pathlib import Path

    with tempfile.TemporaryDirectory() as folder:
        for name, text in (("bare.py", BARE), ("open.py", OPEN)):
            (Path(folder) / name).write_text(text)
        os.environ["XDG_CONFIG_HOME"] = os.environ["XDG_DATA_HOME"] = folder
        pairs = [
            (took(str(Path(folder) / "bare.py")), took(str(Path(folder) / "open.py"), sys.argv[1]))
            for _ in range(6)
        ][1:]
    bare, whole = (statistics.median(pair[k] for pair in pairs) for k in (0, 1))
    print(
        f"bare window with the same imports {bare:.2f} s, first picture {whole:.2f} s, {whole / bare:.2f} x"
    )


if __name__ == "__main__":
    main()
