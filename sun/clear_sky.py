"""The port: what the rest of the product may ask of the sun, in plain values.

pvlib is imported on first use, since its import takes more than a second.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from core.sky import Polar

# Solar constant as used by Spencer (1971) with pvlib's clear-sky comparison figures.
SOLAR_CONSTANT_W_PER_M2 = 1366.1
# Terrestrial time ahead of universal time about 2026, as the Earth orientation bulletins give it.
DELTA_T_S = 69.2
# Half the sun's disc and the standard refraction, as Meeus (1998), chapter 15, has rise and set.
RISE_ELEVATION_DEG = -0.8333
# Where it skims the horizon, a rise has no sharp moment to be corrected to.
LEAST_RATE_DEG_PER_MIN = 0.02


@dataclass(frozen=True, kw_only=True)
class Place:
    """A point on the Earth: degrees north and east, metres above the sea."""

    latitude_deg: float
    longitude_deg: float
    altitude_m: float


@dataclass(frozen=True, kw_only=True)
class Air:
    """How clear the air is (Linke turbidity at air mass 2) and how bright the ground (albedo)."""

    linke_turbidity: float
    albedo: float


@dataclass(frozen=True, kw_only=True)
class SunNow:
    """The sun at a moment and what a clear sky gives a plane.

    elevation_deg: true, without refraction. azimuth_deg: clockwise from north.
    ghi_w_per_m2: on level ground. poa_w_per_m2: on the plane, ground reflection included.
    """

    elevation_deg: float
    azimuth_deg: float
    incidence_deg: float
    ghi_w_per_m2: float
    poa_w_per_m2: float


@dataclass(frozen=True, kw_only=True)
class SunDay:
    """Sunrise, solar noon and sunset of one local day; None where the sun does not rise or set.

    noon_elevation_deg: how high it stands at noon, below 0 in a polar night.
    """

    sunrise: datetime | None
    noon: datetime
    sunset: datetime | None
    noon_elevation_deg: float

    @property
    def polar(self) -> Polar:
        """Whether the sun stays up or down all day."""
        if self.sunrise is not None or self.sunset is not None:
            return ""
        return "day" if self.noon_elevation_deg > 0 else "night"


def warm_up() -> None:
    """Load pvlib ahead of the first question."""
    sun_now(
        place=Place(latitude_deg=0.0, longitude_deg=0.0, altitude_m=0.0),
        air=Air(linke_turbidity=3.0, albedo=0.2),
        tilt_deg=0.0,
        azimuth_deg=180.0,
        at=datetime.fromisoformat("2026-06-21T12:00:00+00:00"),
    )


def sun_now(*, place: Place, air: Air, tilt_deg: float, azimuth_deg: float, at: datetime) -> SunNow:
    """Where the sun stands and what a clear sky gives a plane at a moment.

    Ineichen and Perez (2002) clear sky with a fixed turbidity, isotropic sky, NREL's solar
    position algorithm; zero below the horizon.
    """
    import pandas
    from pvlib import atmosphere, clearsky, irradiance, solarposition

    times = pandas.DatetimeIndex([at])
    position = solarposition.spa_python(
        times,
        place.latitude_deg,
        place.longitude_deg,
        altitude=place.altitude_m,
        delta_t=DELTA_T_S,
    )
    pressure_pa = atmosphere.alt2pres(place.altitude_m)
    relative = atmosphere.get_relative_airmass(position["apparent_zenith"], "kastenyoung1989")
    sky = clearsky.ineichen(
        position["apparent_zenith"],
        atmosphere.get_absolute_airmass(relative, pressure_pa),
        air.linke_turbidity,
        altitude=place.altitude_m,
        dni_extra=irradiance.get_extra_radiation(
            times, solar_constant=SOLAR_CONSTANT_W_PER_M2, method="spencer"
        ),
    )
    plane = irradiance.get_total_irradiance(
        tilt_deg,
        azimuth_deg,
        position["apparent_zenith"],
        position["azimuth"],
        sky["dni"],
        sky["ghi"],
        sky["dhi"],
        albedo=air.albedo,
        model="isotropic",
    )
    incidence = irradiance.aoi(
        tilt_deg, azimuth_deg, position["apparent_zenith"], position["azimuth"]
    )
    return SunNow(
        elevation_deg=float(position["elevation"].iloc[0]),
        azimuth_deg=float(position["azimuth"].iloc[0]),
        incidence_deg=float(incidence.iloc[0]),
        ghi_w_per_m2=_not_nan(sky["ghi"].iloc[0]),
        poa_w_per_m2=_not_nan(plane["poa_global"].iloc[0]),
    )


def _not_nan(value: float) -> float:
    return 0.0 if math.isnan(value) else float(value)


def sun_day(*, place: Place, day: date, timezone: str) -> SunDay:
    """Solar noon of a local day, the sunrise before it and the sunset after it.

    Upper limb with standard refraction. Three days of universal time are asked, since beside the
    date line, and where clocks stand far from the sun, the local day lies in its neighbour.
    """
    import pandas
    from pvlib import solarposition

    midday = datetime.combine(day, time(12), ZoneInfo(timezone))
    found = solarposition.sun_rise_set_transit_spa(
        pandas.DatetimeIndex([midday + timedelta(days=days) for days in (-1, 0, 1)]),
        place.latitude_deg,
        place.longitude_deg,
        delta_t=DELTA_T_S,
    )
    noon = min(_moments(found["transit"]), key=lambda one: abs(one - midday))
    half = timedelta(hours=12)
    sunrise = max((one for one in _moments(found["sunrise"]) if one <= noon), default=None)
    sunset = min((one for one in _moments(found["sunset"]) if one >= noon), default=None)
    return SunDay(
        sunrise=_at_horizon(place, sunrise) if sunrise and noon - sunrise <= half else None,
        noon=noon,
        sunset=_at_horizon(place, sunset) if sunset and sunset - noon <= half else None,
        noon_elevation_deg=elevations_deg(place, [noon])[0],
    )


def _at_horizon(place: Place, moment: datetime) -> datetime:
    """A rise or set made exact: its declination is taken of the wrong day where it crosses one."""
    step = timedelta(minutes=1)
    here_deg, then_deg = elevations_deg(place, [moment, moment + step])
    if abs(then_deg - here_deg) < LEAST_RATE_DEG_PER_MIN:
        return moment
    return moment + step * ((RISE_ELEVATION_DEG - here_deg) / (then_deg - here_deg))


def elevations_deg(place: Place, moments: list[datetime]) -> list[float]:
    """True elevation of the sun at each moment."""
    import pandas
    from pvlib import solarposition

    position = solarposition.spa_python(
        pandas.DatetimeIndex(moments),
        place.latitude_deg,
        place.longitude_deg,
        altitude=place.altitude_m,
        delta_t=DELTA_T_S,
    )
    return [float(one) for one in position["elevation"]]


def _moments(stamps: Iterable[object]) -> list[datetime]:
    """Pandas times as plain ones, without those that are not-a-time."""
    return [datetime.fromisoformat(str(one)) for one in stamps if str(one) != "NaT"]
