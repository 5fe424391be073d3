"""Rows of the shot list, each kind by what makes it."""

from __future__ import annotations

from altana.jobs.rows.backgrounds import Backgrounds
from altana.jobs.rows.film_frames import FilmFrames
from altana.jobs.rows.panoramas import Panoramas
from altana.jobs.rows.place_light import PlaceLight
from altana.jobs.rows.shared import Rows
from altana.jobs.rows.stills import Stills
from altana.jobs.rows.traced import TracedRows


class PictureWork:
    """Makes the rows of one project with one renderer: ``stills``, ``panoramas``, ``film_frames``; ``tracer``
    where they are traced."""

    def __init__(self, rows: Rows) -> None:
        self.rows = rows
        self.tracer = TracedRows(rows)
        self.backgrounds = Backgrounds(rows)
        self.places = PlaceLight(rows)
        self.stills = Stills(rows, self.tracer, self.backgrounds, self.places)
        self.panoramas = Panoramas(rows, self.tracer, self.places)
        self.film_frames = FilmFrames(rows, self.tracer, self.backgrounds)

    def close(self) -> None:
        """End what was started for the rows."""
        self.tracer.close()
        self.places.close()
        self.rows.lighting.let_go()
