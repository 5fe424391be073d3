"""The shipped list of towns."""

from __future__ import annotations

from zoneinfo import ZoneInfo

import pytest

from altana.core.errors import UserError
from altana.storage.towns import nearest_town, town_named, towns, towns_like


def test_towns_are_found_by_name_with_and_without_accents() -> None:
    assert town_named("Zürich").zone == "Europe/Zurich"
    assert town_named("zurich").name == town_named("Zürich").name
    assert town_named("Konstanz").country == "DE"
    assert town_named("Munich").zone == "Europe/Berlin"
    assert town_named("Paris").country == "FR"
    assert town_named("Paris, US").country == "US"


def test_the_beginning_of_a_name_offers_the_largest_first() -> None:
    names = [town.name for town in towns_like("Ham")]
    assert names.index("Hamburg") < len(names)
    assert len(towns_like("a")) == 12
    assert towns_like("") == []


def test_what_is_no_town_is_said() -> None:
    with pytest.raises(UserError, match="no town"):
        town_named("Larkwater on the Moon")


def test_every_town_lies_on_earth_and_in_a_zone_that_is_known() -> None:
    assert len(towns()) > 20_000
    assert all(-90 <= town.latitude_deg <= 90 and -180 <= town.longitude_deg <= 180 for town in towns())
    for zone in {town.zone for town in towns()}:
        ZoneInfo(zone)


def test_the_nearest_town_knows_the_zone() -> None:
    assert nearest_town(47.5, 9.4).zone in ("Europe/Zurich", "Europe/Berlin")
    assert nearest_town(-17.0, 179.9).country in ("FJ", "WF", "TO")
