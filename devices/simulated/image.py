"""The register image of a simulated inverter, as it leaves an invented factory."""

from __future__ import annotations

import struct
from typing import Any

from sunspec2.device import Model

BASE_ADDRESS = 40000
SLOTS = 2
FACTORY_STEPS = 5
READ_ONLY, READ_WRITE = 1, 0

Points = dict[str, Any]


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


def models(serial: str, nominal_v: float) -> list[tuple[int, Points]]:
    """Every register model of the simulated inverter with its factory settings."""
    tenth_volts = round(nominal_v * 10)
    return [
        (
            1,
            {
                "ID": 1,
                "Mn": "Veyrick",
                "Md": "Five",
                "Opt": "",
                "Vr": "1.4.2",
                "SN": serial,
                "DA": 1,
            },
        ),
        (
            701,
            {
                "ID": 701,
                "ACType": 0,
                "St": 0,
                "InvSt": 1,
                "ConnSt": 0,
                "W": 0,
                "LNV": tenth_volts,
                "Hz": 50000,
                "V_SF": -1,
                "Hz_SF": -3,
                "W_SF": 0,
            },
        ),
        (
            702,
            {
                "ID": 702,
                "WMaxRtg": 5000,
                "VNomRtg": tenth_volts,
                "VNom": tenth_volts,
                "WMax": 5000,
                "W_SF": 0,
                "V_SF": -1,
            },
        ),
        (
            703,
            {
                "ID": 703,
                "ES": 1,
                "ESVHi": 1080,
                "ESVLo": 900,
                "ESHzHi": 50050,
                "ESHzLo": 49900,
                "ESDlyTms": 30,
                "ESRndTms": 0,
                "ESRmpTms": 0,
                "V_SF": -1,
                "Hz_SF": -3,
            },
        ),
        (705, _response(705, "Var")),
        (706, _response(706, "W")),
        (707, _trip(707, "V", 9000, 100)),
        (708, _trip(708, "V", 10800, 100)),
        (709, _trip(709, "Hz", 49000, 50)),
        (710, _trip(710, "Hz", 50500, 50)),
        (711, _droop()),
    ]


def registers(serial: str, nominal_v: float) -> tuple[list[int], dict[int, tuple[int, Model]]]:
    """The whole register image from BASE_ADDRESS on, and each model with its address."""
    image = b"SunS"
    placed: dict[int, tuple[int, Model]] = {}
    for model_id, points in models(serial, nominal_v):
        model = Model(model_id, data=points)
        model.points["L"].value = model.len - 2
        placed[model_id] = (BASE_ADDRESS + len(image) // 2, model)
        image += model.get_mb()
    image += struct.pack(">HH", 0xFFFF, 0)
    return list(struct.unpack(f">{len(image) // 2}H", image)), placed
