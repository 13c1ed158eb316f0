"""A sound job to start tests from, and short ways to read on it."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from itertools import pairwise
from typing import Any

from core.assess import assess
from core.assessment.whole import Prompt
from core.edits.feed.runs import with_run
from core.edits.microinverter.branches import set_branch, with_link
from core.edits.microinverter.roof import with_roof_choices
from core.edits.microinverter.units import with_offer
from core.edits.planes import shaped
from core.edits.sheets_and_figures import with_override, with_pack, with_sheet
from core.edits.strings import painted, serpentine, without_string
from core.equipment import catalogue
from core.equipment.cables_switches_fixings import Breaker, Fixing, Isolator
from core.equipment.micro import Micro, Trunk
from core.figures.overrides import Override, OwnPack
from core.job.arrival import Arrival, CrewMember, OpenItem, Permit, Substitute
from core.job.feed import AcRun, DcSwitching, FeedDevice, FeedPlan, HomeRun, one_run
from core.job.grid import GridPlan
from core.job.job import VERSION, Job, Site
from core.job.microinverter import MicroPlan
from core.job.reading_kinds import KINDS, ReadingKind
from core.job.reading_values import from_pair
from core.job.readings import Evidence, Reading
from core.job.roof import Plane, RowGap
from core.job.strings import StringPlan
from core.job.subjects import SUPPLY_PAIRS
from core.job.wall import Wall, WallDevice, WallObject
from core.planning.earth.path import proposed
from core.stages.arrive.stage import planned_figures

EARTH_STAGE, FEED_STAGE = 3, 5
ROOF_ROWS = {"East": ("#####.####", "#########"), "West": ("######", "######")}
TESTER = "Tester 1"
NOON = datetime(2026, 6, 18, 12, 0, tzinfo=UTC)


def micro_job(
    rows: dict[str, tuple[str, ...]] = ROOF_ROWS,
    unit: str = "skerrow-tern-400",
    trunk: str = "skerrow-trunk-130",
    **changes: Any,
) -> Job:
    """A roof of microinverters: drawn, every unit on a branch as proposed first."""
    site = sample_job()
    planes = tuple(
        Plane(
            name=name,
            tilt_deg=35.0,
            azimuth_deg=90.0 * at,
            rows=cells,
            gaps=tuple(
                RowGap(row=row, column=cells[row - 1].index(".") + 1, width_mm=1600.0)
                for row in range(1, len(cells) + 1)
                if "." in cells[row - 1]
            ),
        )
        for at, (name, cells) in enumerate(rows.items(), start=1)
    )
    micro = MicroPlan(
        unit=catalogue.pick(catalogue.sheets("micros"), unit, Micro, "$"),
        trunk=catalogue.pick(catalogue.sheets("trunks"), trunk, Trunk, "$"),
        earth="core",
    )
    job = replace(
        site, planes=planes, inverter=None, strings=(), micro=micro, feed=roof_feed(), **changes
    )
    return with_offer(job, 0)


def wired_roof(*, three_phase: bool = False) -> Job:
    """A roof whose ways are all known: home runs, breakers, the supply read at 240 V."""
    job = micro_job()
    plan = job.roof_plan
    job = with_roof_choices(
        job, gaps="skip", earth="core", order="trunk_first", label="map", three_phase=three_phase
    )
    breaker = catalogue.pick(catalogue.sheets("breakers"), "stobmoor-b20", Breaker, "$")
    for branch in plan.branches:
        box = branch.joint or ""
        job = with_run(
            job,
            None,
            AcRun(
                name=f"To {box}", start="Branch board", end=box, length_m=12.0, section_mm2=4.0,
                cores=3,
            ),
        )  # fmt: skip
        phase = next(one.phase for one in job.roof_plan.branches if one.name == branch.name)
        job = set_branch(
            job, branch.name, phase=phase, feed="end", joint=box, lead_m=1.0, breaker=breaker
        )
        for start, end in pairwise(branch.units):
            if plan.unit_named(start).modules[0].plane != plan.unit_named(end).modules[0].plane:
                job = with_link(job, branch.name, start, "extension", 3.6)
    for pair in SUPPLY_PAIRS[job.source.service]:
        job = with_reading(job, "supply_voltage", pair, 240.0)
    return job


def whole_earth(job: Job) -> Job:
    """The job with its earth path proposed, its lengths known, every continuity in its band."""
    path = proposed(job)
    links = tuple(replace(one, length_m=one.length_m or 6.0) for one in path.links)
    job = replace(job, earthing=replace(path, links=links))
    for one in assess(job).asks:
        if one.stage == EARTH_STAGE:
            job = _answered(job, one)
    return job


def roof_feed() -> FeedPlan:
    """Supply, board with its breaker, branch board; the boxes come with the branches."""
    devices = (
        FeedDevice(name="Supply point", kind="supply"),
        FeedDevice(name="Board", kind="board"),
        FeedDevice(name="Branch board", kind="branches"),
    )
    runs = (
        AcRun(
            name="Service", start="Supply point", end="Board", length_m=8.0, section_mm2=16.0,
            cores=3, of_network=True,
        ),
        AcRun(
            name="Roof feed", start="Board", end="Branch board", length_m=10.0, section_mm2=10.0,
            cores=3,
        ),
    )  # fmt: skip
    return FeedPlan(devices=devices, runs=runs)


def sample_job(**changes: Any) -> Job:
    """Eleven and nine modules on two planes of a one-phase inverter; nothing read yet."""
    whole: dict[str, Any] = {
        "format": "long-noon-job",
        "version": VERSION,
        "id": "0a000000-0000-4000-8000-000000000001",
        "name": "Sample",
        "day": date(2026, 6, 18),
        "rule_pack": "generic-iec",
        "site": Site(
            place="Nowhere",
            latitude_deg=54.0,
            longitude_deg=0.5,
            altitude_m=10.0,
            timezone="Europe/London",
            t_air_min_c=-9.0,
            t_air_max_c=31.0,
            climate_source="test",
        ),
        "planes": (
            Plane(name="East", tilt_deg=35.0, azimuth_deg=100.0),
            Plane(name="West", tilt_deg=35.0, azimuth_deg=260.0),
        ),
        "module": catalogue.module("ostrel-430"),
        "inverter": catalogue.inverter("veyrick-5"),
        "strings": (
            StringPlan(name="A", tracker=1, plane="East", modules_in_series=11),
            StringPlan(name="B", tracker=2, plane="West", modules_in_series=9),
        ),
        "feed": one_run(length_m=20.0, section_mm2=6.0, cores=3),
        "grid": GridPlan(profile="en-50549-1", host="127.0.0.1", port=15020, unit_id=1),
    }
    return Job(**(whole | changes))


def with_reading(
    job: Job, kind: ReadingKind, subject: str, value: float, *, minute: float = 0, **more: Any
) -> Job:
    """The job with one more reading, taken `minute` minutes after noon."""
    at = NOON + timedelta(minutes=minute)
    reading = Reading(
        **{
            "id": f"reading-{_next_number(job):04d}",
            "kind": kind,
            "subject": subject,
            "value": from_pair(KINDS[kind].form, value, more.pop("text", "")),
            "basis": "measured",
            "taken_at": at,
            "kept_at": at,
            "by": "Tester",
            "instrument": TESTER,
        }
        | more
    )
    return replace(job, readings=(*job.readings, reading))


def _next_number(job: Job) -> int:
    numbers = (one.id.removeprefix("reading-") for one in job.readings)
    return max((int(one) for one in numbers if one.isdigit()), default=-1) + 1


def measured_job(irradiance: float = 700.0, back_c: float = 35.0) -> Job:
    """The sample with sun and module temperature read on both planes."""
    job = sample_job()
    for plane in ("East", "West"):
        job = with_reading(job, "irradiance", plane, irradiance)
        job = with_reading(job, "module_temperature", plane, back_c)
    return with_reading(job, "air_temperature", "site", 18.0)


def with_wall(job: Job, **changes: Any) -> Job:
    """The job with its inverter and a DC isolator on a brick wall, each with its space."""
    anchor = catalogue.pick(catalogue.sheets("fixings"), "wrackley-10x80", Fixing, "$")
    dc = catalogue.pick(catalogue.sheets("isolators"), "stobmoor-dc-25", Isolator, "$")
    whole: dict[str, Any] = {
        "kind": "solid",
        "width_mm": 3000.0,
        "height_mm": 2600.0,
        "thickness_mm": 215.0,
        "azimuth_deg": 340.0,
        "devices": (
            WallDevice(
                name="Inverter", kind="inverter", label="x", x_mm=1500, y_mm=1130, fixing=anchor
            ),
            WallDevice(
                name="DC isolator",
                kind="isolator",
                label=dc.label,
                x_mm=1000,
                y_mm=1250,
                body=dc.body,
                fixing=anchor,
            ),
        ),
    }
    return replace(job, wall=Wall(**(whole | changes)))


def settled(job: Job) -> Job:
    """The job with all of Arrive, Hang and Earth done: goods, permit, people, wall, earth path."""
    run = HomeRun(length_m=18.0, section_mm2=4.0)
    crew = (CrewMember(name="A", licence="L 1"), CrewMember(name="B"))
    permit = Permit(operator="Grid", reference="R 1", granted_on=job.day, export_w=6000.0)
    job = replace(
        with_wall(job),
        strings=tuple(replace(string, home_run=(run,)) for string in job.strings),
        arrival=Arrival(permit=permit, crew=crew),
    )
    for string in job.strings:
        job = shaped(job, string.plane, ("#" * string.modules_in_series,))
        job = painted(job, string.name, tuple(serpentine(job.plane(string.plane))))
    path = proposed(job)
    links = tuple(
        link if link.length_m or link.how == "washer" else replace(link, length_m=5.0)
        for link in path.links
    )
    job = replace(job, earthing=replace(path, links=links))
    for line in assess(job).arrive.lines:
        job = with_reading(job, "goods_found", line.id, line.needed or 0.0)
    for ask in assess(job).asks:
        if ask.stage <= EARTH_STAGE:
            job = _answered(job, ask)
    return job


def with_feed(job: Job, **changes: Any) -> Job:
    """The job with a whole AC side: board, isolator and inverter on a one-phase supply."""

    def run(start: str, end: str, length_m: float, section_mm2: float) -> AcRun:
        return AcRun(
            name=f"To {end}",
            start=start,
            end=end,
            length_m=length_m,
            section_mm2=section_mm2,
            cores=3,
            outside_mm=13.5,
        )

    breaker = catalogue.pick(catalogue.sheets("breakers"), "stobmoor-b25", Breaker, "$")
    isolator = catalogue.pick(catalogue.sheets("isolators"), "stobmoor-ac-40", Isolator, "$")
    guarded = replace(breaker, residual_type="A", residual_ma=30.0)
    whole: dict[str, Any] = {
        "devices": (
            FeedDevice(name="Supply point", kind="supply"),
            FeedDevice(
                name="Board", kind="board", breaker=guarded, busbar_a=100, supply_a=63, surge="2"
            ),
            FeedDevice(name="AC isolator", kind="isolator", isolator=isolator),
            FeedDevice(name="Inverter", kind="inverter"),
        ),
        "runs": (
            run("Supply point", "Board", 5.0, 16.0),
            run("Board", "AC isolator", 12.0, 6.0),
            run("AC isolator", "Inverter", 3.0, 6.0),
        ),
        "supply_service": "single",
        "dc": DcSwitching(reason="Short way under the roof", by="Tester", surge="2"),
    }
    return replace(job, feed=FeedPlan(**(whole | changes)))


DISCHARGE_MIN = 6.0


def wired(job: Job) -> Job:
    """The job with everything that Feed asks for done: made dead, torqued, pulled, measured."""
    values = {"supply_voltage": 232.0, "loop_impedance": 0.4}
    minute = 0.0
    for ask in (one for one in assess(job).asks if one.stage == FEED_STAGE):
        # The capacitors have their time before anything is measured.
        minute += DISCHARGE_MIN if ask.subject == "waited" else 1.0
        middle = ((ask.expected_low or 0.0) + (ask.expected_high or 0.0)) / 2
        usual = middle if ask.kind == "torque" else 1.0
        value = values.get(ask.kind, usual)
        job = with_reading(job, ask.kind, ask.subject, value, minute=minute)
    return job


def _answered(job: Job, ask: Prompt) -> Job:
    """The job with the reading that a sound job gives to what is asked."""
    texts = {"nameplate_model": job.source.model, "nameplate_serial": "VF26010001"}
    if ask.is_text:
        return with_reading(job, ask.kind, ask.subject, 0.0, text=texts[ask.kind])
    plate = planned_figures(job).get(ask.kind)
    middle = ((ask.expected_low or 0.0) + (ask.expected_high or 0.0)) / 2
    values = {"test_current": 0.21, "continuity": middle, "level": 0.0}
    return with_reading(job, ask.kind, ask.subject, plate or values.get(ask.kind, 1.0))


def asked(job: Job, key: str) -> Prompt:
    """One thing asked for in the job's assessment."""
    return next(ask for ask in assess(job).asks if ask.key == key)


def whole_job() -> Job:
    """A job that uses every part of the file: roof, wall, earth path, own pack, retired names."""
    job = with_reading(measured_job(), "open_circuit", "B", 342.0)
    job = shaped(without_string(job, "B"), "East", ("######", "#####."))
    job = painted(job, "A", tuple(serpentine(job.planes[0])))
    own = OwnPack(
        id="our-island",
        name="Our island",
        edition="note 4",
        checked_on="2026-11-24",
        based_on="uk-small",
        figures=(Override(path="cold.flat_factor", value=1.2, reason="salt and wind"),),
    )
    job = with_sheet(with_pack(job, own.id, own), catalogue.optimiser("fenbrow-500"))
    pipe = WallObject(name="Pipe", kind="pipe", x_mm=60, y_mm=0, width_mm=50, height_mm=2600)
    job = with_wall(job, objects=(pipe,), board_edges_mm=(1200.0,))
    left = OpenItem(what="Hang it", owner="A", stage=2)
    swapped = Substitute(kind="modules", was="Another", now=job.module.label)
    crew, permit = (CrewMember(name="A"),), Permit(operator="G", reference="R", granted_on=job.day)
    arrival = Arrival(permit=permit, crew=crew, open_items=(left,), substitutes=(swapped,))
    picture = Evidence(
        id="picture-0001",
        step="permit",
        name="permit.jpg",
        form="image/jpeg",
        size_bytes=9,
        sha256="0" * 64,
        kept_at=NOON,
        by="Tester",
    )
    job = replace(job, arrival=arrival, earthing=proposed(job), evidence=(picture,))
    job = with_reading(job, "nameplate_serial", "inverter", 0, text="VF26010001")
    job = with_reading(job, "safety_voltage", "A", 11.0)
    return with_override(job, Override(path="agree.on", choice="max", reason="as the client asks"))
