"""What Altana says to a person when something cannot be done.  Everything else that is raised is a bug."""

from __future__ import annotations


class UserError(Exception):
    """What happened, what was kept and what to do, in a sentence or two; shown as it is, without a trace."""

    @property
    def sentence(self) -> str:
        """The text for the person."""
        return str(self.args[0]) if self.args else "Something went wrong."


class Refused(UserError):
    """A value, a place or a thing with which the core cannot do what was asked; the sentence says which and
    why."""
