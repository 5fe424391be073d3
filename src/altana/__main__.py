"""``python -m altana``: the same as the command ``altana``."""

from altana.cli.main import run

if __name__ == "__main__":
    run()
