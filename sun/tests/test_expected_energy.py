"""Expected energy against worked cases, and a year of it against the model chain of pvlib."""

from __future__ import annotations

import random
from datetime import datetime
from pathlib import Path
from typing import Any
from unittest import TestCase

from core.base.errors import Refused
from core.rules.leave.plant_energy import EnergyInverter, EnergyLoss, EnergyString, Faiman
from core.tests.cases import Case, compare, load
from sun.clear_sky import Air, Place
from sun.expected_energy import expected_energy
from sun.planes import Sky, Slope, Steps, clear_sky, plane_light, sky_of_level

CASES = Path(__file__).parent / "cases"
HOURS = 8760
KEYS = {
    "plane_irradiation_kwh_per_m2": "plane_kwh_per_m2",
    "cell_temperature_max_c": "cell_max_c",
    "dc_energy_by_string_kwh": "by_string_kwh",
    "share_of_dc_by_string": "share",
    "dc_energy_kwh": "dc_kwh",
    "ac_energy_kwh": "ac_kwh",
    "ac_energy_by_local_day_kwh": "by_day_kwh",
    "clipping_loss_mppt_dc_kwh": "clipped_tracker_kwh",
    "clipping_loss_inverter_ac_kwh": "clipped_inverter_kwh",
    "clipping_loss_plant_limit_kwh": "clipped_limit_kwh",
    "specific_yield_kwh_per_kwp": "kwh_per_kwp",
    "performance_ratio": "performance_ratio",
}


def asked(case: Case) -> dict[str, Any]:
    """A case's inputs as the sun room takes them."""
    of = case["inputs"]
    site, weather, models = of["site"], of["weather"], of["models"]
    modules = of["modules"]
    faiman = models["cell_temperature"] == "faiman"
    return {
        "place": Place(
            latitude_deg=site["latitude_deg"],
            longitude_deg=site["longitude_deg_east"],
            altitude_m=site["altitude_m"],
        ),
        "time_zone": site["time_zone"],
        "slopes": [
            Slope(
                name=one["id"], tilt_deg=one["tilt_deg"], azimuth_deg=one["azimuth_deg_from_north"]
            )
            for one in of["planes"]
        ],
        "strings": [
            EnergyString(
                name=one["id"],
                plane=one["plane"],
                inverter=one["inverter"],
                tracker=one["mppt"],
                modules=one["modules"],
                pmax_w=modules[one["module"]]["pmax_w"],
                gamma_pct_per_k=modules[one["module"]]["gamma_pmax_pct_per_k"],
                noct_c=modules[one["module"]]["noct_c"],
            )
            for one in of["strings"]
        ],
        "inverters": [
            EnergyInverter(
                name=one["id"],
                pac_max_w=one["pac_max_w"],
                efficiency=one["efficiency"],
                tracker_max_w=one.get("mppt_max_dc_w"),
                count=one.get("count", 1),
            )
            for one in of["inverters"]
        ],
        "steps": Steps(
            start=datetime.fromisoformat(weather["start_local"]),
            step_min=weather["step_min"],
            count=weather["values"],
        ),
        "sky": Sky(
            ghi_w_per_m2=weather["ghi_w_per_m2"],
            dni_w_per_m2=weather["dni_w_per_m2"],
            dhi_w_per_m2=weather["dhi_w_per_m2"],
        ),
        "t_air_c": weather["t_air_c"],
        "wind_m_per_s": weather["wind_m_per_s"],
        "albedo": of["albedo"],
        "model": models["sky_diffuse"],
        "iam_b0": models.get("iam_b0"),
        "faiman": Faiman(u0=models["faiman_u0"], u1=models["faiman_u1"]) if faiman else None,
        "dc_losses": [EnergyLoss(name=name, pct=pct) for name, pct in of["dc_losses_pct"].items()],
        "ac_wiring_pct": of["ac_wiring_pct"],
        "plant_ac_limit_w": of["plant_ac_limit_w"],
    }


class ExpectedEnergy(TestCase):
    def test_worked_cases(self) -> None:
        for case in load(CASES, "expected_energy"):
            found = expected_energy(**asked(case))
            for key, field in KEYS.items():
                compare(self, case, key, getattr(found, field))

    def test_what_is_cut_and_what_is_lost_add_up_to_what_came(self) -> None:
        given = asked(load(CASES, "expected_energy")[0])
        inverter = given["inverters"][0]
        for most_w, ac_w, limit_w in ((3000.0, 5000.0, None), (None, 2500.0, 2000.0)):
            cut = EnergyInverter(
                name=inverter.name, pac_max_w=ac_w, efficiency=0.968, tracker_max_w=most_w
            )
            found = expected_energy(
                **given | {"inverters": [cut], "plant_ac_limit_w": limit_w, "ac_wiring_pct": 0.0}
            )
            came = sum(found.by_string_kwh)
            self.assertAlmostEqual(came, found.dc_kwh + found.clipped_tracker_kwh, places=9)
            lost = found.clipped_inverter_kwh + found.clipped_limit_kwh
            self.assertAlmostEqual(found.dc_kwh * 0.968, found.ac_kwh + lost, places=9)
            self.assertGreater(found.clipped_tracker_kwh + lost, 1.0)

    def test_series_of_unequal_length_are_refused(self) -> None:
        given = asked(load(CASES, "expected_energy")[0])
        with self.assertRaises(Refused):
            expected_energy(**given | {"wind_m_per_s": [1.0]})

    def test_a_year_is_within_a_hundredth_of_the_model_chain(self) -> None:
        place = Place(latitude_deg=51.5, longitude_deg=-1.2, altitude_m=60.0)
        steps = Steps(
            start=datetime.fromisoformat("2026-01-01T00:00:00+00:00"), step_min=60, count=HOURS
        )
        chance = random.Random(18)
        clear = clear_sky(place=place, air=Air(linke_turbidity=3.2, albedo=0.2), steps=steps)
        ghi = [one * chance.choice((0.2, 0.5, 0.8, 1.0)) for one in clear.ghi_w_per_m2]
        sky = sky_of_level(place=place, steps=steps, ghi_w_per_m2=ghi)
        air = [10 + 8 * chance.random() for _ in range(HOURS)]
        slope = Slope(name="South", tilt_deg=38, azimuth_deg=190)
        found = expected_energy(
            place=place, time_zone="UTC", slopes=[slope], steps=steps, sky=sky, t_air_c=air,
            wind_m_per_s=[2.0] * HOURS, model="haydavies", faiman=Faiman(), iam_b0=0.05,
            strings=[
                EnergyString(
                    name="A", plane="South", inverter="I", tracker="1", modules=10, pmax_w=430.0,
                    gamma_pct_per_k=-0.3,
                )
            ],
            inverters=[EnergyInverter(name="I", pac_max_w=20_000, efficiency=0.96)],
            dc_losses=[EnergyLoss(name="wiring", pct=2.0)],
        )  # fmt: skip
        wanted = chain_kwh(place, slope, steps, sky, air)
        self.assertLess(abs(found.ac_kwh / wanted - 1), 0.01)

    def test_what_falls_on_a_level_plane_is_what_falls_on_level_ground(self) -> None:
        place = Place(latitude_deg=47.0, longitude_deg=8.0, altitude_m=400.0)
        start = datetime.fromisoformat("2026-06-21T00:00:00+02:00")
        steps = Steps(start=start, step_min=30, count=48)
        sky = clear_sky(place=place, air=Air(linke_turbidity=3.0, albedo=0.2), steps=steps)
        level = Slope(name="Flat", tilt_deg=0, azimuth_deg=180)
        light = plane_light(place=place, slopes=[level], steps=steps, sky=sky, albedo=0.2)[0]
        for falls, on_ground in zip(light.irradiance_w_per_m2, sky.ghi_w_per_m2, strict=True):
            self.assertAlmostEqual(falls, on_ground, delta=0.02 * max(on_ground, 50))


def chain_kwh(place: Place, slope: Slope, steps: Steps, sky: Sky, air: list[float]) -> float:
    """The year's AC energy by pvlib's own chain, with its own sun and its own transposition."""
    import pandas
    from pvlib.location import Location
    from pvlib.modelchain import ModelChain
    from pvlib.pvsystem import Array, FixedMount, PVSystem

    array = Array(
        FixedMount(surface_tilt=slope.tilt_deg, surface_azimuth=slope.azimuth_deg),
        albedo=0.2,
        module_parameters={"pdc0": 4300.0, "gamma_pdc": -0.003, "b": 0.05},
        temperature_model_parameters={"u0": 25.0, "u1": 6.84},
    )
    chain = ModelChain(
        PVSystem([array], inverter_parameters={"pdc0": 50_000.0}),
        Location(place.latitude_deg, place.longitude_deg, altitude=place.altitude_m),
        aoi_model="ashrae", dc_model="pvwatts", ac_model="pvwatts", losses_model="no_loss",
        spectral_model="no_loss", temperature_model="faiman",
    )  # fmt: skip
    half = pandas.Timedelta(minutes=steps.step_min / 2)
    times = pandas.DatetimeIndex(steps.stamps()) + half
    chain.run_model(
        pandas.DataFrame(
            {
                "ghi": list(sky.ghi_w_per_m2), "dni": list(sky.dni_w_per_m2),
                "dhi": list(sky.dhi_w_per_m2), "temp_air": air, "wind_speed": 2.0,
            },
            index=times,
        )
    )  # fmt: skip
    return float(chain.results.dc.sum()) * 0.98 * 0.96 / 1000
