"""Places that may be meant by what was typed, pasted or touched on the map."""

from __future__ import annotations

from core.base.messages import figure, say
from places import towns
from places.coordinates import coordinates, is_meant
from server.begin.schemas import Spot

# Within so much of its middle a point is in a town, as far as a name for it goes.
IN_TOWN_KM = 3.0


def spots(typed: str) -> list[Spot]:
    """The places that may be meant. Raises Refused: coordinates that are none."""
    if not is_meant(typed):
        return [_of_town(one) for one in towns.find(typed)]
    return [at_point(*coordinates(typed))]


def at_point(latitude_deg: float, longitude_deg: float) -> Spot:
    """A point as a place: named by the town nearest to it, where one is near."""
    near = towns.nearest(latitude_deg, longitude_deg)
    place = "" if near is None else near.town.name
    if near is None:
        said = say("begin", "no_town")
    elif near.distance_km <= IN_TOWN_KM:
        said = near.town.country
    else:
        distance = figure(near.distance_km, "km", 0)
        said = say(
            "begin", "near", distance=distance, town=near.town.name, country=near.town.country
        )
    return Spot(
        place=place,
        country="" if near is None else near.town.iso,
        near=said,
        latitude_deg=latitude_deg,
        longitude_deg=longitude_deg,
        timezone=towns.zone_at(latitude_deg, longitude_deg),
    )


def _of_town(town: towns.Town) -> Spot:
    return Spot(
        place=town.name,
        country=town.iso,
        near=town.country,
        latitude_deg=town.latitude_deg,
        longitude_deg=town.longitude_deg,
        timezone=towns.zone_at(town.latitude_deg, town.longitude_deg),
    )
