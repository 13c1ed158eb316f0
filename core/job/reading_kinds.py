"""Every kind of reading, in one table: its stage, what it is of, what may be read.

A kind is added in `data/reading_kinds.json` and by name below; its words are in the words file.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal, get_args

from core.base.form import Checked, read
from core.base.glossary import Note
from core.base.quantity import Items, Quantity
from core.base.stage_numbers import StageNumber
from core.data import load

ReadingKind = Literal[
    "irradiance",
    "air_temperature",
    "module_temperature",
    "wind",
    "open_circuit",
    "polarity",
    "connectors",
    "dc_switch",
    "plus_to_earth",
    "minus_to_earth",
    "safety_voltage",
    "reporting",
    "supply_voltage",
    "setting",
    "goods_found",
    "goods_damaged",
    "nameplate_model",
    "nameplate_serial",
    "nameplate_max_dc",
    "nameplate_isc",
    "nameplate_power",
    "nameplate_nominal",
    "services",
    "level",
    "holes_first",
    "way_up",
    "entry_side",
    "hooks",
    "locked",
    "lead_null",
    "lead_ohm",
    "test_current",
    "continuity",
    "torque",
    "pull",
    "loop_impedance",
    "line_side",
    "isolator_up",
    "dead_step",
    "lid",
    "unit_serial",
    "units_hung",
    "unit_covered",
    "trunk_marks",
    "drops_sealed",
    "branch_on",
    "swap_step",
    "loss_moment",
    "over_voltage_stop",
    "mean_voltage",
    "supply_frequency",
    "look_over",
    "electrode",
    "functional",
    "short_circuit",
    "operating",
    "insulation_volts",
    "insulation_plus",
    "insulation_minus",
    "insulation_ac_volts",
    "insulation_ac",
    "conductor_voltage",
    "rotation",
    "residual_ms",
    "residual_ma",
    "switch_works",
    "wake_step",
    "light",
    "switch_stands",
    "end_pin",
    "end_crimp",
    "end_nut",
    "end_pull",
    "unit_bolt",
    "unit_washer",
    "unit_click",
    "unit_joint",
    "unit_label",
    "module_serial",
    "signal_dbm",
    "talk_ready",
    "board_in",
    "pins_seen",
    "entry_closed",
    "bus_ohm",
    "end_resistor",
    "drain_wire",
    "controller_up",
    "network_answers",
    "page_saved",
    "grid_by_name",
    "firmware",
    "default_replaced",
    "meter_load",
    "meter_reads",
    "export_limit",
    "export_seen",
    "signal_before",
    "signal_at",
    "signal_after",
    "activation_in",
    "pairing_began",
    "report_count",
    "listed_count",
    "chain_count",
    "status_row",
    "account_step",
    "optimiser_serial",
    "device_serial",
    "check_code",
    "label_stuck",
]
# How an irradiance may come to be known; everything else is measured.
Basis = Literal["measured", "clear_sky"]
# Of what a kind is read. What of it a job has, the job says (`Job.subjects_of`).
SubjectOf = Literal[
    "account_step",
    "anything",
    "branch",
    "chain_battery",
    "chain_end",
    "circuit",
    "conductor_pair",
    "containment",
    "dead_step",
    "earth",
    "earth_link",
    "every_switch",
    "feed_part",
    "functional",
    "inverter",
    "label",
    "look_over",
    "loss_moment",
    "meter_load",
    "meter_step",
    "module",
    "plane",
    "run_end",
    "setting",
    "signal_step",
    "site",
    "string",
    "string_end",
    "supply_pair",
    "swap_step",
    "switch",
    "talk_device",
    "talk_page",
    "talk_place",
    "talk_port",
    "talk_ready",
    "talk_secret",
    "talk_wire",
    "unit",
    "wake_step",
    "wake_switch",
    "wall_device",
]
# What of plan and device a reading rests on: with another of it, the reading is past.
Part = Literal[
    "string",
    "string_end",
    "plane",
    "run",
    "run_end",
    "breaker",
    "circuit",
    "supply",
    "device",
    "profile",
    "earth_link",
    "wall_device",
    "switch",
    "own_switch",
    "containment",
    "branch",
    "unit",
    "talk_device",
    "talk_wire",
    "talk_port",
    "talk_bus",
    "talk_meter",
]
Form = Literal["measured", "answer", "said"]
# Enough for volts and watts; where the second decimal matters a kind says so.
PLAIN_DIGITS = 1


@dataclass(frozen=True, kw_only=True)
class KindSpec(Checked):
    """One kind of reading.

    stage: where it is asked for. of: what it is read of. form: a figure, an answer with two
    sides, or a text. meaning: what it is. unit, low, high: of a figure. digits: with which it is
    shown. ranged: the tester may only say that there is more than its range. bases: who may
    enter it: a hand with an instrument, the sky's own sum. optional: the job is done without it.
    holds_h: for how many hours a permission may rest on it; None: until what it was read of
    changes. rests_on: which parts of plan and device that is.
    source: of what is judged by the answer alone.
    """

    key: ReadingKind
    stage: StageNumber
    of: SubjectOf
    form: Form
    meaning: Note
    unit: str = ""
    low: float = 0.0
    high: float = 0.0
    digits: int = PLAIN_DIGITS
    ranged: bool = False
    bases: Annotated[tuple[Basis, ...], Items("bases", 1, 2)] = ("measured",)
    optional: bool = False
    holds_h: float | None = None
    rests_on: Annotated[tuple[Part, ...], Items("parts", 0, 4)] = ()
    source: Note = ""

    @property
    def quantity(self) -> Quantity:
        """What a figure of this kind may be."""
        return Quantity(self.meaning, self.unit, self.low, self.high)


def _table() -> dict[ReadingKind, KindSpec]:
    specs = read(tuple[KindSpec, ...], load("reading_kinds"), "$reading_kinds")
    found = {spec.key: spec for spec in specs}
    missing = set(get_args(ReadingKind)) - set(found)
    if missing:
        raise LookupError(f"no line in reading_kinds.json for {', '.join(sorted(missing))}")
    return found


KINDS = _table()


def kinds_of(
    *, stage: StageNumber | None = None, of: SubjectOf | None = None
) -> tuple[ReadingKind, ...]:
    """The kinds of a stage, of a subject, or of both, in the order of the table."""
    return tuple(
        spec.key for spec in KINDS.values() if stage in (None, spec.stage) and of in (None, spec.of)
    )
