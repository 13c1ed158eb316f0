"""What falls on a roof's planes over hours or a year: from weather, or from a clear sky."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, Literal

from core.rules.leave.plant_energy import PlaneLight
from sun.clear_sky import DELTA_T_S, SOLAR_CONSTANT_W_PER_M2, Air, Place

SkyModel = Literal["isotropic", "haydavies"]
Series = Sequence[float]


@dataclass(frozen=True, kw_only=True)
class Slope:
    """A plane: tilt from level, azimuth clockwise from north, both in degrees."""

    name: str
    tilt_deg: float
    azimuth_deg: float


@dataclass(frozen=True, kw_only=True)
class Steps:
    """Equal steps of time. Figures at a step are means of the interval that begins at its stamp;
    the sun is taken at its middle. start: with its offset."""

    start: datetime
    step_min: float
    count: int

    def stamps(self) -> list[datetime]:
        """When each step begins, by elapsed time."""
        step = timedelta(minutes=self.step_min)
        return [self.start + number * step for number in range(self.count)]


@dataclass(frozen=True, kw_only=True)
class Sky:
    """Irradiance by step in W/m2: on level ground, straight from the sun, from the rest of the
    sky."""

    ghi_w_per_m2: Series
    dni_w_per_m2: Series
    dhi_w_per_m2: Series


def plane_light(
    *,
    place: Place,
    slopes: Sequence[Slope],
    steps: Steps,
    sky: Sky,
    albedo: float,
    model: SkyModel = "isotropic",
    iam_b0: float | None = None,
) -> tuple[PlaneLight, ...]:
    """What falls on each plane at each step.

    model: how the rest of the sky is bright, isotropic or after Hay and Davies (1980). iam_b0: of
    the reflection at the glass (ASHRAE), on what comes straight from the sun. No horizon, no near
    shade. Sun after NREL's algorithm, apparent zenith.
    """
    import pandas
    from pvlib import iam, irradiance

    times, sun = _sun(place, steps)
    ghi, dni, dhi = (
        pandas.Series(list(one), index=times)
        for one in (sky.ghi_w_per_m2, sky.dni_w_per_m2, sky.dhi_w_per_m2)
    )
    extra = irradiance.get_extra_radiation(
        times, solar_constant=SOLAR_CONSTANT_W_PER_M2, method="spencer"
    )
    found = []
    for slope in slopes:
        angles = (slope.tilt_deg, slope.azimuth_deg, sun["apparent_zenith"], sun["azimuth"])
        falls = irradiance.get_total_irradiance(
            *angles, dni, ghi, dhi, dni_extra=extra, albedo=albedo, model=model
        )
        effective: tuple[float, ...] = ()
        if iam_b0 is not None:
            passes = iam.ashrae(irradiance.aoi(*angles), b=iam_b0)
            effective = _plain(falls["poa_diffuse"] + falls["poa_direct"] * passes)
        found.append(
            PlaneLight(
                name=slope.name,
                irradiance_w_per_m2=_plain(falls["poa_global"]),
                effective_w_per_m2=effective,
            )
        )
    return tuple(found)


def clear_sky(*, place: Place, air: Air, steps: Steps) -> Sky:
    """A clear sky over a place: Ineichen and Perez (2002) with a fixed turbidity."""
    from pvlib import atmosphere, clearsky, irradiance

    times, sun = _sun(place, steps)
    relative = atmosphere.get_relative_airmass(sun["apparent_zenith"], "kastenyoung1989")
    found = clearsky.ineichen(
        sun["apparent_zenith"],
        atmosphere.get_absolute_airmass(relative, atmosphere.alt2pres(place.altitude_m)),
        air.linke_turbidity,
        altitude=place.altitude_m,
        dni_extra=irradiance.get_extra_radiation(
            times, solar_constant=SOLAR_CONSTANT_W_PER_M2, method="spencer"
        ),
    )
    return Sky(
        ghi_w_per_m2=_plain(found["ghi"]),
        dni_w_per_m2=_plain(found["dni"]),
        dhi_w_per_m2=_plain(found["dhi"]),
    )


def sky_of_level(*, place: Place, steps: Steps, ghi_w_per_m2: Series) -> Sky:
    """A measured level irradiance parted into sun and rest of the sky (Erbs and others, 1982)."""
    import pandas
    from pvlib import irradiance

    times, sun = _sun(place, steps)
    found = irradiance.erbs(pandas.Series(list(ghi_w_per_m2), index=times), sun["zenith"], times)
    return Sky(
        ghi_w_per_m2=tuple(ghi_w_per_m2),
        dni_w_per_m2=_plain(found["dni"]),
        dhi_w_per_m2=_plain(found["dhi"]),
    )


def _sun(place: Place, steps: Steps) -> tuple[Any, Any]:
    """The middle of each step, and where the sun stands then."""
    import pandas
    from pvlib import solarposition

    half = timedelta(minutes=steps.step_min / 2)
    # In universal time: the offset of a zone may change on the way.
    times = pandas.DatetimeIndex([one + half for one in steps.stamps()]).tz_convert("UTC")
    found = solarposition.spa_python(
        times,
        place.latitude_deg,
        place.longitude_deg,
        altitude=place.altitude_m,
        delta_t=DELTA_T_S,
    )
    return times, found


def _plain(series: Any) -> tuple[float, ...]:
    return tuple(0.0 if math.isnan(one) else max(0.0, float(one)) for one in series)
