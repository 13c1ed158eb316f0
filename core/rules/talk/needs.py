"""What a plant must have to talk: a meter, a way out, the signals that the operator asks for."""

from __future__ import annotations

from typing import Annotated, Literal

from core.base.glossary import Note, Signal
from core.base.judgement import Judgement, Verdict, at_least, holds, waiting
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule
from core.equipment.talker import SignalDbm

TALK_SOURCE = "device sheets (ports, functions); trade practice"
PERMIT_SOURCE = "operator's permit"
METER_SOURCE = "device sheets of battery and backup; operator's permit (export limit)"
# Own default by the signal bands of the trade: to −60 good, to −70 usable, to −80 watch (02, 7).
USABLE_DBM, FAINT_DB = -70.0, 10.0
Wanted = Literal["export", "battery", "backup", "consumption"]
How = Literal["", "wired", "blanked", "not_required"]
PlantW = Annotated[float, Quantity("rated AC power of the plant", "W", 1, 10_000_000)]
PermitW = Annotated[float, Quantity("export granted", "W", 0, 10_000_000)]
Clamps = Annotated[int, Quantity("clamps", "", 0, 12)]


@rule
def talk_planned(*, planned: bool) -> Judgement:
    """Has anybody said how the devices of this house talk, and by which way out of it?

    Source: device sheets (ports, functions); trade practice.
    """
    if not planned:
        return waiting("talk_planned", "", TALK_SOURCE, (say("needs", "talk_plan"),))
    return holds("talk_planned", True, TALK_SOURCE)


@rule
def battery_talks(*, planned: bool) -> Judgement:
    """Has anybody said how a battery, or what parts the house, is told what the house takes?

    Without its lines and its meter a battery feeds what nobody watches.
    Source: device sheets of battery and backup.
    """
    if not planned:
        return waiting("battery_talks", "", METER_SOURCE, (say("needs", "battery_talk"),))
    return holds("battery_talks", True, METER_SOURCE)


@rule
def export_limit_planned(*, planned: bool, rated_w: PlantW, permit_w: PermitW) -> Judgement:
    """Where the permit grants less than the plant gives: has anybody planned what holds it back?

    Without a plan of Talk nothing sets, reads back or tries a limit: it waits.
    Source: operator's permit.
    """
    if not planned:
        limit, whole = figure(permit_w, "W", 0), figure(rated_w, "W", 0)
        needs = say("needs", "export_plan", limit=limit, whole=whole)
        return waiting("export_limit_planned", "W", PERMIT_SOURCE, (needs,))
    return holds("export_limit_planned", True, PERMIT_SOURCE)


@rule
def way_out_chosen(*, way: Note, missing: tuple[str, ...], said: Note) -> Judgement:
    """Is the way out of the house chosen, and is there what it takes?

    Without one a reason is kept: nobody will see that the plant stands still.
    Source: device sheets (ways out); trade practice.
    """
    if missing:
        return waiting("way_out_chosen", "", TALK_SOURCE, missing)
    bad: Verdict = "watch" if way == "none" else "stop"
    return holds("way_out_chosen", way != "none" and not said, TALK_SOURCE, bad=bad, said=said)


@rule
def range_ok(*, read_dbm: SignalDbm, least_dbm: SignalDbm = USABLE_DBM) -> Judgement:
    """Is the radio signal at this place as strong as the device's sheet asks?

    Up to 10 dB below the sheet's least: watch, it may come and go. Below: stop.
    Source: device sheet (signal); signal bands of the trade.
    """
    under: Verdict = "watch" if read_dbm >= least_dbm - FAINT_DB else "stop"
    return at_least(
        "range_ok", read_dbm, least_dbm, "dBm", "device sheet (signal)", under=under, exact="clear"
    )


@rule
def meter_present(*, wanted: tuple[Wanted, ...], fitted: bool, wired: bool) -> Judgement:
    """Is there a meter where one is needed, and is it wired to who reads it?

    wanted: why: export, battery, backup, consumption.
    Source: device sheets of battery and backup; operator's permit (export limit).
    """
    why = " · ".join(say("meter_wanted", one) for one in wanted)
    if not wanted:
        return holds("meter_present", True, METER_SOURCE, why=say("meter_wanted", "nothing"))
    key = "none" if not fitted else "unwired"
    said = "" if fitted and wired else say("meter_lacks", key, why=why)
    return holds("meter_present", fitted and wired, METER_SOURCE, why=why, said=said)


@rule
def clamps_fit(*, clamps: Clamps, phases: Clamps, own: Clamps) -> Judgement:
    """Has each phase its clamp, and has the meter so many?

    A meter without clamps is in the line itself.
    Source: meter sheet (clamps).
    """
    wanted = phases if own else 0
    source = "meter sheet (clamps)"
    return holds("clamps_fit", clamps == wanted, source, clamps=str(clamps), phases=str(wanted))


@rule
def signal_settled(*, signal: Signal, how: How, reason: Note, wired: bool) -> Judgement:
    """Is the operator's signal wired, or is there a reason why it is not?

    Source: operator's permit (connection variant); grid code.
    """
    source = "operator's permit; grid code"
    title = say("signals", signal)
    if not how:
        return waiting("signal_settled", "", source, (say("needs", "signal", signal=title),))
    if how == "wired":
        good = wired
        key = "wired" if wired else "unwired"
    else:
        good = bool(reason.strip())
        key = how if good else "no_reason"
    said = say("signal_said", key, signal=title, reason=reason.strip().rstrip("."))
    return holds("signal_settled", good, source, said=said)


@rule
def talk_noted(*, read: bool) -> Judgement:
    """Is something read that is judged together with the rest?

    Source: device sheets; trade practice.
    """
    if not read:
        return waiting("talk_noted", "", TALK_SOURCE, (say("needs", "reading"),))
    return holds("talk_noted", True, TALK_SOURCE)
