"""Towns by the beginning of their names, the town nearest to a point, and its time zone."""

from __future__ import annotations

import gzip
import math
import unicodedata
from array import array
from bisect import bisect_left
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import numpy as np
from tzfpy import get_tz

TOWNS = Path(__file__).parent / "data" / "towns.tsv.gz"
MOST_FOUND = 8
EARTH_RADIUS_KM = 6371.0
# Further off than this no town says anything of a house.
FAR_KM = 150.0
# How the zones of the sea begin, which go by longitude alone.
AT_SEA = "Etc/"


@dataclass(frozen=True, kw_only=True, slots=True)
class Town:
    """A town: what it is called, its country by name and by two letters, and where it lies."""

    name: str
    country: str
    iso: str
    latitude_deg: float
    longitude_deg: float
    people: int


@dataclass(frozen=True, kw_only=True)
class Near:
    """The town nearest to a point, and how far off it is."""

    town: Town
    distance_km: float


def folded(text: str) -> str:
    """A name as it is looked for: without accents, in lower case, its words by single spaces."""
    bare = unicodedata.normalize("NFKD", text.casefold())
    plain = "".join(one for one in bare if not unicodedata.combining(one))
    return " ".join("".join(one if one.isalnum() else " " for one in plain).split())


def find(text: str, most: int = MOST_FOUND) -> tuple[Town, ...]:
    """The towns whose names begin so, the one with most people first.

    What follows a comma is the beginning of the country's name, or its two letters.
    """
    name, _, country = text.partition(",")
    begins, of = folded(name), folded(country)
    if not begins:
        return ()
    there = _list()
    first, last = (bisect_left(there.names, key) for key in (begins, begins + "\U0010ffff"))
    found = (there.town(at) for at in sorted(there.order[first:last]))
    fitting = (one for one in found if not of or _is_of(one, of))
    # One that is called just so comes before one that only begins so.
    exact_first = sorted(fitting, key=lambda one: folded(one.name) != begins)
    return tuple(exact_first[:most])


def _is_of(town: Town, country: str) -> bool:
    return town.iso.lower() == country or folded(town.country).startswith(country)


def nearest(latitude_deg: float, longitude_deg: float) -> Near | None:
    """The town nearest to a point; None where none is within 150 km."""
    there = _list()
    here = _unit(np.array([latitude_deg]), np.array([longitude_deg]))[0]
    town = there.town(int((there.units @ here).argmax()))
    off_km = distance_km((latitude_deg, longitude_deg), (town.latitude_deg, town.longitude_deg))
    return Near(town=town, distance_km=off_km) if off_km <= FAR_KM else None


def distance_km(one: tuple[float, float], other: tuple[float, float]) -> float:
    """How far apart two points are over the globe, each by latitude and longitude in degrees.

    Formula: the haversine, which keeps its digits for points close together.
    """
    (north, east), (north_2, east_2) = (map(math.radians, point) for point in (one, other))
    half = (
        math.sin((north_2 - north) / 2) ** 2
        + math.cos(north) * math.cos(north_2) * math.sin((east_2 - east) / 2) ** 2
    )
    return 2 * EARTH_RADIUS_KM * math.asin(math.sqrt(half))


def zone_at(latitude_deg: float, longitude_deg: float) -> str:
    """The time zone of a point by its borders, as Europe/London; off the shore that of the nearest
    town, on the high sea the one by longitude."""
    zone = get_tz(longitude_deg, latitude_deg)
    near = nearest(latitude_deg, longitude_deg) if zone.startswith(AT_SEA) else None
    return zone if near is None else get_tz(near.town.longitude_deg, near.town.latitude_deg)


def within(
    south_deg: float, west_deg: float, north_deg: float, east_deg: float, most: int
) -> tuple[Town, ...]:
    """The towns with most people inside a box, for a drawn map."""
    there = _list()
    inside = (
        (there.latitudes >= south_deg) & (there.latitudes <= north_deg)
        & (there.longitudes >= west_deg) & (there.longitudes <= east_deg)
    )  # fmt: skip
    return tuple(there.town(int(at)) for at in np.flatnonzero(inside)[:most])


class _Towns:
    """Every town, the one with most people first, and by name.

    They stay as they are written, each read when it is asked for: all of them made would take twice
    the memory.
    """

    def __init__(self, text: str) -> None:
        heads, _, rows = text.partition("\n\n")
        self.countries = dict(line.split("\t") for line in heads.splitlines())
        self.lines = rows.splitlines()
        keyed = sorted((folded(line.partition("\t")[0]), at) for at, line in enumerate(self.lines))
        self.names = [name for name, _ in keyed]
        self.order = array("l", (at for _, at in keyed))
        places = np.array([line.split("\t")[2:4] for line in self.lines], dtype=float)
        self.latitudes, self.longitudes = places[:, 0].copy(), places[:, 1].copy()
        self.units = _unit(self.latitudes, self.longitudes)

    def town(self, at: int) -> Town:
        """The town at a place of the list."""
        name, iso, latitude, longitude, people = self.lines[at].split("\t")
        return Town(
            name=name,
            country=self.countries.get(iso, iso),
            iso=iso,
            latitude_deg=float(latitude),
            longitude_deg=float(longitude),
            people=int(people),
        )


def _unit(latitudes_deg: np.ndarray, longitudes_deg: np.ndarray) -> np.ndarray:
    """Points of the globe as unit vectors: the nearest one has the largest product."""
    latitudes, longitudes = np.radians(latitudes_deg), np.radians(longitudes_deg)
    level = np.cos(latitudes)
    return np.column_stack(
        (level * np.cos(longitudes), level * np.sin(longitudes), np.sin(latitudes))
    )


@cache
def _list() -> _Towns:
    return _Towns(gzip.decompress(TOWNS.read_bytes()).decode())
