"""The one kind of error that is meant for people."""

from __future__ import annotations


class UserError(Exception):
    """What happened, what was kept and what to do, in a sentence or two; shown as it is, without a trace."""

    @property
    def sentence(self) -> str:
        """The text for the person."""
        return str(self.args[0]) if self.args else "Something went wrong."
