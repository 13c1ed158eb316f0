"""The register image of a simulated inverter, as it leaves an invented factory."""

from __future__ import annotations

import struct
from dataclasses import dataclass
from typing import Any, Literal

from sunspec2.device import Model

BASE_ADDRESS = 40000
SLOTS = 2
FACTORY_STEPS = 5
READ_ONLY, READ_WRITE = 1, 0

Points = dict[str, Any]
# new: one phase, models 701 to 714; three: the same on three phases; old: models 101 to 160.
DeviceKind = Literal["new", "three", "old"]
KINDS: tuple[DeviceKind, ...] = ("new", "three", "old")


@dataclass(frozen=True, kw_only=True)
class Made:
    """A simulated inverter as it was made: its kind, label and rating, what it has counted."""

    serial: str
    kind: DeviceKind = "new"
    model: str = "Five"
    rated_w: int = 5000
    nominal_v: float = 230.0
    counted_wh: int = 0


def _trip(model_id: int, name: str, level: int, time_cs: int) -> Points:
    """A trip model with one factory step in force and an empty writable slot."""
    factory = [
        {name: level, "Tms": time_cs},
        *({name: 0, "Tms": 0} for _ in range(FACTORY_STEPS - 1)),
    ]
    empty = [{name: 0, "Tms": 0} for _ in range(FACTORY_STEPS)]

    def curve(read_only: int, active: int, points: list[Points]) -> Points:
        regions = {key: {"ActPt": 0, "Pt": empty} for key in ("MayTrip", "MomCess")}
        return {
            "ReadOnly": read_only,
            "MustTrip": {"ActPt": active, "Pt": points},
            **regions,
        }

    scale = {"V_SF": -2} if name == "V" else {"Hz_SF": -3}
    return {
        "ID": model_id,
        "Ena": 1,
        "AdptCrvReq": 0,
        "AdptCrvRslt": 1,
        "NPt": FACTORY_STEPS,
        "NCrvSet": SLOTS,
        "Tms_SF": -2,
        **scale,
        "Crv": [curve(READ_ONLY, 1, factory), curve(READ_WRITE, 0, empty)],
    }


def _response(model_id: int, name: str) -> Points:
    """A volt-var or volt-watt model, off, with an empty writable slot."""

    def curve(read_only: int) -> Points:
        points = [{"V": 10000, name: 0} for _ in range(4)]
        more = {
            "Pri": 1,
            "VRef": 10000,
            "VRefAuto": 10000,
            "VRefAutoEna": 0,
            "VRefAutoTms": 0,
        }
        return {
            "ActPt": 4,
            "DeptRef": 0,
            "RspTms": 10,
            "ReadOnly": read_only,
            "Pt": points,
            **(more if name == "Var" else {}),
        }

    return {
        "ID": model_id,
        "Ena": 0,
        "AdptCrvReq": 0,
        "AdptCrvRslt": 1,
        "NPt": 4,
        "NCrv": SLOTS,
        "RvrtTms": 0,
        "RvrtRem": 0,
        "RvrtCrv": 0,
        "V_SF": -2,
        "DeptRef_SF": -1,
        "RspTms_SF": -1,
        "Crv": [curve(READ_ONLY), curve(READ_WRITE)],
    }


def _droop() -> Points:
    def control(read_only: int) -> Points:
        return {
            "DbOf": 500,
            "DbUf": 500,
            "KOf": 50,
            "KUf": 50,
            "RspTms": 2,
            "PMin": 0,
            "ReadOnly": read_only,
        }

    return {
        "ID": 711,
        "Ena": 1,
        "AdptCtlReq": 0,
        "AdptCtlRslt": 1,
        "NCtl": SLOTS,
        "RvrtTms": 0,
        "RvrtRem": 0,
        "RvrtCtl": 0,
        "Db_SF": -3,
        "K_SF": -3,
        "RspTms_SF": 0,
        "Ctl": [control(READ_ONLY), control(READ_WRITE)],
    }


def _plain(model_id: int, **points: Any) -> tuple[int, Points]:
    return model_id, {"ID": model_id, **points}


def _common(made: Made) -> tuple[int, Points]:
    names = {"Mn": "Veyrick", "Md": made.model, "Opt": "", "Vr": "1.4.2", "SN": made.serial}
    return _plain(1, **names, DA=1)


def _dc_ports() -> tuple[int, Points]:
    ports = [
        {"PrtTyp": 0, "ID": number, "IDStr": f"PV{number}", "DCA": 620, "DCV": 3740, "DCW": 2320}
        for number in (1, 2)
    ]
    scales = {"DCA_SF": -2, "DCV_SF": -1, "DCW_SF": 0}
    return _plain(714, PrtAlrms=0, NPrt=2, DCA=1240, DCW=4640, **scales, Prt=ports)


def _watt_var() -> tuple[int, Points]:
    curve = {"ActPt": 0, "DeptRef": 0, "Pri": 1, "Pt": [{"W": 0, "Var": 0} for _ in range(6)]}
    slots = [{**curve, "ReadOnly": READ_ONLY}, {**curve, "ReadOnly": READ_WRITE}]
    more = {"RvrtTms": 0, "RvrtRem": 0, "RvrtCrv": 0, "W_SF": -1, "DeptRef_SF": -1}
    adopt = {"AdptCrvReq": 0, "AdptCrvRslt": 1}
    return _plain(712, Ena=0, **adopt, NPt=6, NCrv=SLOTS, **more, Crv=slots)


def _measured(made: Made, phases: int) -> tuple[int, Points]:
    """Model 701, feeding; three phases with a volt between them, as supplies are."""
    volts = round(made.nominal_v * 10)
    lines = {f"VL{number}": volts + 10 * number for number in range(1, 1 + (phases > 1) * 3)}
    return _plain(
        701,
        ACType=2 if phases > 1 else 0,
        St=1,
        InvSt=3,
        ConnSt=1,
        Alrm=0,
        W=4510,
        VA=4520,
        A=196,
        LNV=volts,
        Hz=50000,
        TotWhInj=made.counted_wh,
        TotWh_SF=0,
        **lines,
        V_SF=-1,
        A_SF=-1,
        Hz_SF=-3,
        W_SF=0,
        VA_SF=0,
    )


def _newer(made: Made, phases: int) -> list[tuple[int, Points]]:
    volts, watts = round(made.nominal_v * 10), made.rated_w
    return [
        _common(made),
        _measured(made, phases),
        _plain(702, WMaxRtg=watts, VNomRtg=volts, VNom=volts, WMax=watts, W_SF=0, V_SF=-1),
        _plain(
            703,
            ES=1,
            ESVHi=1080,
            ESVLo=900,
            ESHzHi=50050,
            ESHzLo=49900,
            ESDlyTms=30,
            ESRndTms=0,
            ESRmpTms=0,
            V_SF=-1,
            Hz_SF=-3,
        ),
        _plain(704, WMaxLimPctEna=0, WMaxLimPct=1000, WMaxLimPct_SF=-1),
        (705, _response(705, "Var")),
        (706, _response(706, "W")),
        (707, _trip(707, "V", 9000, 100)),
        (708, _trip(708, "V", 10800, 100)),
        (709, _trip(709, "Hz", 49000, 50)),
        (710, _trip(710, "Hz", 50500, 50)),
        (711, _droop()),
        _watt_var(),
        _dc_ports(),
    ]


def _older(made: Made) -> list[tuple[int, Points]]:
    tenth_volts = round(made.nominal_v * 10)
    inputs = [
        {"ID": number, "IDStr": f"PV{number}", "DCA": 620, "DCV": 3740, "DCW": 2320}
        for number in (1, 2)
    ]
    return [
        _common(made),
        _plain(
            101,
            A=196,
            AphA=196,
            A_SF=-1,
            PhVphA=tenth_volts,
            V_SF=-1,
            W=4510,
            W_SF=0,
            Hz=5000,
            Hz_SF=-2,
            WH=made.counted_wh,
            WH_SF=0,
            St=4,
            Evt1=0,
            Evt2=0,
        ),
        _plain(
            120,
            DERTyp=4,
            WRtg=made.rated_w,
            WRtg_SF=0,
            VARtg=made.rated_w,
            VARtg_SF=0,
            ARtg=227,
            ARtg_SF=-1,
        ),
        _plain(
            121,
            WMax=made.rated_w,
            WMax_SF=0,
            VRef=tenth_volts,
            VRefOfs=0,
            VRef_SF=-1,
            VRefOfs_SF=-1,
            VMax=round(tenth_volts * 1.08),
            VMin=round(tenth_volts * 0.9),
            VMinMax_SF=-1,
            ECPNomHz=5000,
            ECPNomHz_SF=-2,
        ),
        _plain(122, PVConn=7, ECPConn=1),
        _plain(123, Conn=1, WMaxLimPct=1000, WMaxLim_Ena=0, WMaxLimPct_SF=-1),
        _plain(160, DCA_SF=-2, DCV_SF=-1, DCW_SF=0, DCWH_SF=0, N=2, module=inputs),
    ]


def models(made: Made) -> list[tuple[int, Points]]:
    """Every register model of a simulated inverter with its factory settings."""
    if made.kind == "old":
        return _older(made)
    return _newer(made, 3 if made.kind == "three" else 1)


def registers(made: Made) -> tuple[list[int], dict[int, tuple[int, Model]]]:
    """The whole register image from BASE_ADDRESS on, and each model with its address."""
    image = b"SunS"
    placed: dict[int, tuple[int, Model]] = {}
    for model_id, points in models(made):
        model = Model(model_id, data=points)
        model.points["L"].value = model.len - 2
        placed[model_id] = (BASE_ADDRESS + len(image) // 2, model)
        image += model.get_mb()
    image += struct.pack(">HH", 0xFFFF, 0)
    return list(struct.unpack(f">{len(image) // 2}H", image)), placed
