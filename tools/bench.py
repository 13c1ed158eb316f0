"""Measure what was promised: the core, timed in this process, then the screen."""

from __future__ import annotations

import math
import random
import statistics
import sys
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from core.assess import assess, assess_every
from core.edits.house import MOST_STATIONS, AddInverter, applied
from core.edits.microinverter.units import with_offer
from core.equipment.catalogue import SHIPPED, inverter
from core.equipment.catalogue_csv import read_table, template
from core.equipment.talker import FUNCTIONS, Function, PortFace, Talker
from core.figures.grid_profiles import ProfilePoint, profile
from core.files.job import read_job
from core.job.feed import one_run
from core.job.house import view
from core.job.job import Job
from core.job.reading_values import Measured
from core.job.roof import Plane
from core.job.sequences import SwitchId
from core.job.strings import StringPlan
from core.job.talk import TalkDevice, TalkWire
from core.job.wall import WallObject
from core.planning.dc.arrangements import arrange
from core.planning.dc.string_plans import planner_for
from core.planning.microinverter import parts as roof_parts
from core.planning.microinverter.branches import branch_offers
from core.planning.talk import ports
from core.planning.wall.places import find_places
from core.rehearsal.play import Act
from core.rehearsal.rehearse import rehearse
from core.rules.ac.voltage_rise import AcRise, RunSegment, ac_rise
from core.stages.feed import runs as feed_runs
from core.stages.feed import stage as feed
from core.stages.microinverter import stage as roof
from core.stages.string.prompts import judge_held_voltage
from core.stages.talk import stage as talk
from devices.client import Line, set_profile
from devices.simulated.image import Made
from devices.simulated.inverter import SimulatedInverter, running
from sun.single_diode import single_diode_voc
from sun.tests.test_single_diode import closed_form, diodes
from tools.bench_band import bench_band
from tools.bench_day import bench_day
from tools.bench_screen import bench_screen
from tools.measuring import median_ms, show
from tools.phasors import Feeder, Service, solve

ROOT = Path(__file__).resolve().parent.parent
SAIL_JOB = ROOT / "server" / "demo" / "jobs" / "sail-loft.json"
TALK_DEVICES, TALK_PORTS, TALK_FUNCTIONS = 5, 4, 12
FERRY_JOB = ROOT / "server" / "demo" / "jobs" / "ferry-office.json"
ROOF_JOB = ROOT / "server" / "demo" / "jobs" / "slipway-cottage.json"
DEMO_JOB = ROOT / "server" / "demo" / "jobs" / "lantern-house.json"
HOUSE_JOB = ROOT / "server" / "demo" / "jobs" / "curlew-barn.json"
RUNS = 200
SUNS = (200.0, 300.0, 500.0, 700.0, 900.0, 1000.0, 1100.0)
CELLS = (-5.0, 15.0, 35.0, 55.0, 70.0)
TABLE_ROWS = 10_000
FEEDERS, SEED, NOMINAL_V = 150, 5, 230.0

OBJECTS = 30
# What the longest profile that ships has none of: a second, faster step on each side.
SECOND_STEPS = (
    ("over_frequency_2_hz", 53.0),
    ("over_frequency_2_s", 0.1),
    ("under_frequency_2_hz", 46.0),
    ("under_frequency_2_s", 0.1),
)
SWITCHED_ON: tuple[SwitchId, ...] = ("plugs", "dc", "breaker", "ac")


def many_strings(job: Job, count: int) -> Job:
    """The job with many strings, read ones among them."""
    strings = tuple(
        StringPlan(
            name=f"S{i}",
            tracker=1 + i % 2,
            plane=job.planes[i % 2].name,
            modules_in_series=8 + i % 6,
        )
        for i in range(count)
    )
    read = next(reading for reading in job.readings if reading.kind == "open_circuit")
    readings = tuple(
        replace(
            read,
            id=f"bench-{i:06d}",
            subject=f"S{i}",
            supersedes=None,
            value=Measured(330.0 + i % 90),
        )
        for i in range(count)
    )
    names = {string.name for string in job.strings}
    conditions = tuple(r for r in job.readings if r.subject not in names)
    ways = tuple(replace(way, holds=()) for way in job.feed.containments)
    feeding = replace(job.feed, containments=ways)
    return replace(job, strings=strings, feed=feeding, readings=(*conditions, *readings))


def growth(large: Job, small: Job, times: int) -> float:
    """How many times longer the large job takes than `times` small ones; measured in turn."""
    ratios = [
        median_ms(lambda: assess(large), 3) / (times * median_ms(lambda: assess(small), 3))
        for _ in range(RUNS // 10)
    ]
    return statistics.median(ratios)


def bench_core() -> list[bool]:
    """The assessment: of the demo job, of a large one, and how it grows."""
    job = read_job(DEMO_JOB.read_bytes())
    large, small = many_strings(job, 200), many_strings(job, 50)

    def unprepared() -> None:
        planner_for.cache_clear()
        judge_held_voltage.cache_clear()
        feed._judged.cache_clear()
        feed_runs._dc_judged.cache_clear()
        assess(job)

    return [
        show("assess, demo job, median", median_ms(lambda: assess(job), RUNS), 5, "ms"),
        show("assess, demo job, nothing kept ready, median", median_ms(unprepared, RUNS), 10, "ms"),
        show("assess, 200 strings, median", median_ms(lambda: assess(large), RUNS // 4), 60, "ms"),
        show("assess, 200 strings over 4 times 50 strings", growth(large, small, 4), 1.25, ""),
    ]


def six_inverters() -> Job:
    """A house of six inverters with four strings each."""
    house = read_job(HOUSE_JOB.read_bytes())
    house = replace(house, feed=replace(house.feed, containments=()))
    for number in range(MOST_STATIONS - len(house.stations)):
        more = AddInverter(name=f"More {number}", inverter="veyrick-5", board="Board")
        house = applied(house, house.id, more, SHIPPED)
    # A further inverter begins without strings.
    like = house.strings[0]
    stations = tuple(replace(one, strings=four_strings(like, one.name)) for one in house.stations)
    return replace(house, strings=four_strings(like, "First"), stations=stations)


def four_strings(like: StringPlan, name: str) -> tuple[StringPlan, ...]:
    return tuple(replace(like, name=f"{name} {at}", tracker=1, places=()) for at in range(4))


def bench_house() -> list[bool]:
    """A house of six inverters and 24 strings: what a key waits for, and all of them together."""
    house = six_inverters()

    def one() -> None:
        assess(view(house, house.id))

    def every() -> None:
        assess_every(house)

    return [
        show("assess, one of six inverters, 24 strings, median", median_ms(one, 20), 15, "ms"),
        show("assess, all six of them, median", median_ms(every, 20), 100, "ms"),
    ]


def bench_closed_form() -> list[bool]:
    """The closed form of a string's voltage now against pvlib's single-diode route, in one run."""
    moments = [(sun, cell) for sun in SUNS for cell in CELLS]
    modules = diodes()
    apart = max(
        abs(closed_form(sheet, *moment) / single_diode_voc(diode, *moment) - 1)
        for sheet, diode in modules
        for moment in moments
    )

    def closed() -> None:
        for sheet, _ in modules:
            for moment in moments:
                closed_form(sheet, *moment)

    def diode() -> None:
        for _, one in modules:
            for moment in moments:
                single_diode_voc(one, *moment)

    # A pair at a time, so that both see the same machine.
    times = [median_ms(diode, 1) / median_ms(closed, 1) for _ in range(9)]
    return [
        show("closed form against single diode, furthest apart", 100 * apart, 1.5, "%"),
        show(
            "50 times single diode's speed over the closed form's",
            50,
            statistics.median(times),
            "×",
        ),
    ]


def feeders(count: int) -> list[Feeder]:
    """Radial feeders of all services, thin and thick, short and long, the same at every run."""
    dice = random.Random(SEED)
    services: tuple[Service, ...] = ("single", "split", "three")
    found = []
    for number in range(count):
        service = services[number % len(services)]
        cosine = dice.uniform(0.8, 1.0)
        sine = math.sqrt(1 - cosine**2) * dice.choice((-1, 0, 1))
        size = dice.uniform(1000, 15_000)
        found.append(
            Feeder(
                service=service,
                supply_v=dice.uniform(225, 255),
                pieces=tuple(
                    (dice.uniform(1, 60), dice.uniform(0.5, 6), dice.uniform(0.05, 0.2))
                    for _ in range(dice.randint(1, 5))
                ),
                power=size * complex(cosine if sine else 1.0, sine),
            )
        )
    return found


def laddered(feeder: Feeder) -> Callable[[], AcRise]:
    """The core's ladder of a feeder, its run made ready as a job's is."""
    size = abs(feeder.power)
    reactive = feeder.power.imag
    run = tuple(
        RunSegment(name="piece", length_m=length, r_ohm_per_km=r, x_ohm_per_km=x)
        for length, r, x in feeder.pieces
    )
    return lambda: ac_rise(
        run=run,
        service=feeder.service,
        nominal_v=NOMINAL_V,
        supply_v=feeder.supply_v,
        output_va=size,
        power_factor=feeder.power.real / size,
        reactive="injecting" if reactive > 0 else "absorbing" if reactive < 0 else "none",
    )


def bench_ladder() -> list[bool]:
    """The ladder of volts against a 25-digit phasor solve of every conductor, in one run."""
    many = feeders(FEEDERS)
    ladders = [laddered(feeder) for feeder in many]
    apart = max(
        abs(ours - exact)
        for one, feeder in zip(ladders, many, strict=True)
        for ours, exact in zip(one().node_v, solve(feeder), strict=True)
    )

    def ladder() -> None:
        for one in ladders:
            one()

    def phasors() -> None:
        for feeder in many:
            solve(feeder)

    times = [median_ms(phasors, 1) / median_ms(ladder, 5) for _ in range(3)]
    speed = statistics.median(times)
    return [
        show("ladder against phasor solve, furthest apart", 100 * apart / NOMINAL_V, 0.2, "%"),
        show("100 times the phasor solve's speed over the ladder's", 100, speed, "×"),
    ]


def bench_planning() -> list[bool]:
    """Arranging a large roof, and reading a large table."""
    job = read_job(DEMO_JOB.read_bytes())
    planes = tuple(
        Plane(name=name, tilt_deg=35.0, azimuth_deg=facing)
        for name, facing in (("N", 0.0), ("E", 90.0), ("S", 180.0), ("W", 270.0))
    )
    first = StringPlan(name="A", tracker=1, plane="N", modules_in_series=10)
    split = inverter("hathmoor-76-split")
    many = tuple(replace(one, inputs=3, max_short_circuit_a=60.0) for one in split.trackers)
    sheet = replace(split, service="single", max_dc_w=None, trackers=many)
    plain = one_run(length_m=20.0, section_mm2=6.0, cores=3)
    wide = replace(job, planes=planes, strings=(first,), inverter=sheet, feed=plain, readings=())
    roofs = ((15, 15, 15, 15), (18, 12, 20, 10), (24, 16, 12, 8))
    slowest = max(
        median_ms(partial(arrange, wide, dict(zip("NESW", roof, strict=True))), 5) for roof in roofs
    )
    header, row, *_ = template("modules").splitlines()
    rows = [row.replace("ostrel-430", f"m{n}") for n in range(TABLE_ROWS)]
    table = "\n".join([header, *rows]).encode()
    read_s = median_ms(lambda: list(read_table("modules", table)), 3) / 1000
    return [
        show("arrange 60 modules, 4 planes, 4 trackers, slowest", slowest, 300, "ms"),
        show("read a table of 10,000 sheets, median", read_s, 5, "s"),
    ]


def bench_roof() -> list[bool]:
    """Proposing branches for a large roof of microinverters, and judging it as proposed."""
    job = read_job(ROOF_JOB.read_bytes())
    sides = (("N", 0.0), ("E", 90.0), ("S", 180.0), ("W", 270.0))
    planes = tuple(
        Plane(name=name, tilt_deg=35.0, azimuth_deg=facing, rows=("########", "#######"))
        for name, facing in sides
    )
    bare = replace(job.roof_plan, units=(), branches=())
    plain = replace(job, planes=planes, micro=bare, readings=())
    three = replace(plain, micro=replace(bare, three_phase=True))
    slowest = max(median_ms(partial(branch_offers, one), 5) for one in (plain, three))
    proposed = with_offer(plain, 0)

    def unprepared() -> None:
        roof._judged.cache_clear()
        feed._judged.cache_clear()
        roof_parts._roof.cache_clear()
        assess(proposed)

    return [
        show("propose branches, 60 modules, 4 planes, slowest", slowest, 300, "ms"),
        show("assess, 60 units, nothing kept ready, median", median_ms(unprepared, 20), 60, "ms"),
    ]


def bench_wall() -> list[bool]:
    """Finding a place on a crowded wall, and judging it."""
    job = read_job(DEMO_JOB.read_bytes())
    wall = job.wall
    if wall is None:
        raise SystemExit("the demo's wall is gone")
    objects = tuple(
        WallObject(
            name=f"thing {n}",
            kind="other",
            x_mm=150.0 + 730 * (n % 10),
            y_mm=100.0 + 800 * (n // 10),
            width_mm=90.0,
            height_mm=120.0,
        )
        for n in range(OBJECTS)
    )
    crowded = replace(job, wall=replace(wall, width_mm=8000.0, objects=objects))
    taken_ms = median_ms(lambda: find_places(crowded, "Inverter"), 20)
    return [show("find a place, 30 objects, median", taken_ms, 500, "ms")]


def bench_commission() -> list[bool]:
    """A profile of forty settings written and read back, and an hour rehearsed."""
    known = profile("au-4777-a")
    points = (*known.points, *(ProfilePoint(id=of, value=value) for of, value in SECOND_STEPS))
    whole = replace(known, points=points)
    with running(SimulatedInverter(Made(serial="B-1"))) as port:
        line = Line(host="127.0.0.1", port=port, unit_id=1)
        written_s = median_ms(lambda: set_profile(line, whole), 10) / 1000
    job = read_job(FERRY_JOB.read_bytes())
    acts = tuple(Act(at_s=float(at), switch=switch) for at, switch in enumerate(SWITCHED_ON))
    hour_ms = median_ms(lambda: rehearse(job, phase="on", acts=acts, until_s=3600.0), 10)
    return [
        show(f"write and verify a profile of {len(points)} settings", written_s, 2, "s"),
        show("rehearse an hour, median", hour_ms, 100, "ms"),
    ]


def bench_talk() -> list[bool]:
    """Twelve functions put on twenty ports, and a job with them judged after a key."""
    job = read_job(SAIL_JOB.read_bytes())
    plan = job.talk
    if plan is None:
        raise SystemExit("the demo's plan of Talk is gone")
    twelve = FUNCTIONS[:TALK_FUNCTIONS]
    devices = tuple(
        TalkDevice(name=f"D{at}", sheet=_many_ports(f"D{at}", twelve, at))
        for at in range(TALK_DEVICES)
    )
    wires = tuple(
        TalkWire(name=f"W{at}", function=one, device=f"D{at % TALK_DEVICES}", far="outside")
        for at, one in enumerate(twelve)
    )
    large = replace(plan, devices=devices, wires=wires, secrets=())

    def propose() -> None:
        ports.placed.cache_clear()
        ports.places(large)

    with_them = replace(
        job,
        talk=replace(plan, devices=(*plan.devices, *devices), wires=(*plan.wires, *wires)),
    )

    def judged() -> None:
        talk._stage.cache_clear()
        ports.placed.cache_clear()
        assess(with_them)

    return [
        show("propose 12 functions on 20 ports, median", median_ms(propose, 20), 50, "ms"),
        show("assess with them, Talk not kept ready, median", median_ms(judged, 20), 60, "ms"),
    ]


def _many_ports(name: str, functions: tuple[Function, ...], at: int) -> Talker:
    """A device with four ports, each for half of the functions from another one on."""
    half = len(functions) // 2
    faces = tuple(
        PortFace(
            name=f"P{number}",
            connector="terminals",
            functions=tuple(
                functions[(at + number * TALK_DEVICES + step) % len(functions)]
                for step in range(half)
            ),
        )
        for number in range(TALK_PORTS)
    )
    return Talker(
        id=name.lower(), maker="Bench", model=name, sheet_revision="1", what="inverter", ports=faces
    )


if __name__ == "__main__":
    results = [
        *bench_core(),
        *bench_house(),
        *bench_closed_form(),
        *bench_band(),
        *bench_ladder(),
        *bench_planning(),
        *bench_roof(),
        *bench_wall(),
        *bench_commission(),
        *bench_talk(),
        *bench_day(),
        *bench_screen(),
    ]
    print("every promise is kept" if all(results) else "a promise is not kept")
    sys.exit(0 if all(results) else 1)
