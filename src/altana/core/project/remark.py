"""Remarks that came from others: a picture with words, and which camera of ours answers it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Comment:
    """What somebody said about a remark; ``date`` as in ISO 8601."""

    author: str
    date: str
    text: str


@dataclass(frozen=True, slots=True)
class Remark:
    """A remark with its viewpoint as it came; ``id`` is that of the file it came in, so that an answer finds
    its way back.

    ``picture`` is the file of its snapshot, relative to the project; ``camera`` the id of the camera that
    answers it, ``planned`` of the planned shot that it became.
    """

    id: str
    title: str
    words: str = ""
    author: str = ""
    date: str = ""
    picture: str = ""
    comments: tuple[Comment, ...] = ()
    camera: str = ""
    planned: str = ""
    answer: str = ""
    answered: bool = False
