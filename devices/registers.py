"""A device's register models: found by scanning, read whole, written point by point."""

from __future__ import annotations

import struct
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from sunspec2 import mdef
from sunspec2.device import Group, Model, ModelError, Point

from devices.link import BYTES_PER_REGISTER, Link, LinkProblem

MARK = b"SunS"
BASE_ADDRESSES = (40000, 0, 50000)
END_MODEL = 0xFFFF
# Modbus application protocol V1.1b3, 7: gateway path unavailable, target failed to respond.
NOBODY_THERE = (0x0A, 0x0B)
HEADER_REGISTERS = 2
# More than any inverter carries; a scan beyond it is garbage, not a device.
MOST_MODELS = 60
MOST_MODEL_REGISTERS = 4000


@dataclass(frozen=True, kw_only=True)
class Found:
    """Where one register model of a device starts, and how long it is."""

    address: int
    length: int


class Registers:
    """The register models of a device behind a link: the list is read at once, a model when it
    is first asked for."""

    def __init__(self, link: Link) -> None:
        self._link = link
        self._found: dict[int, Found] = {}
        self._read: dict[int, Model] = {}
        for model_id, address, length in _scan(link):
            # Of a model that stands twice the first is the device's own.
            self._found.setdefault(model_id, Found(address=address, length=length))

    @property
    def models(self) -> tuple[int, ...]:
        """The numbers of the device's models, in the order of its list."""
        return tuple(self._found)

    def require(self, wanted: tuple[int, ...]) -> None:
        """Raises LinkProblem *wrong_device* that names the models which the device lacks."""
        missing = [str(model_id) for model_id in wanted if model_id not in self._found]
        if missing:
            raise LinkProblem("wrong_device", f"model {', '.join(missing)} is missing")

    def model(self, model_id: int) -> Model:
        """The model as last read."""
        known = self._read.get(model_id)
        return self.reload(model_id) if known is None else known

    def reload(self, model_id: int) -> Model:
        """The model read afresh from the device."""
        self.require((model_id,))
        found = self._found[model_id]
        self._read[model_id] = self._load(model_id, found.address, found.length)
        return self._read[model_id]

    def forget(self, model_id: int) -> None:
        """Drop what was changed in a model and not written: it is read afresh when next asked."""
        self._read.pop(model_id, None)

    def write(self, model_id: int) -> None:
        """Write every point that was changed, neighbours together."""
        found = self._found[model_id]
        for offset, data in _merged(_dirty(self._read[model_id])):
            self._link.write(found.address + offset, data)

    def _load(self, model_id: int, address: int, length: int) -> Model:
        data = self._link.read(address, length + HEADER_REGISTERS)
        try:
            return Model(model_id, model_len=length, data=data)
        except (
            ModelError,
            mdef.ModelDefinitionError,
            struct.error,
            TypeError,
            ValueError,
        ) as error:
            raise LinkProblem("garbage", f"model {model_id}: {error}") from None


def _scan(link: Link) -> Iterator[tuple[int, int, int]]:
    """Model id, address and length of each model in the device's chain."""
    address = _base(link) + HEADER_REGISTERS
    for _ in range(MOST_MODELS):
        header = link.read(address, HEADER_REGISTERS)
        model_id, length = struct.unpack(">HH", header)
        if model_id == END_MODEL:
            return
        if length > MOST_MODEL_REGISTERS:
            break
        yield model_id, address, length
        address += length + HEADER_REGISTERS
    raise LinkProblem("garbage", "the chain of register models has no end")


def _base(link: Link) -> int:
    refused = 0
    for address in BASE_ADDRESSES:
        try:
            if link.read(address, HEADER_REGISTERS) == MARK:
                return address
        except LinkProblem as problem:
            if problem.outcome != "refused":
                raise
            refused = problem.code
            if refused in NOBODY_THERE:
                break
    raise LinkProblem("wrong_device", "no open register map was found", refused)


def _dirty(group: Group) -> Iterator[tuple[int, bytes]]:
    for point in group.points.values():
        if point.dirty:
            yield (
                point.offset,
                point.info.to_data(point.value, point.len * BYTES_PER_REGISTER),
            )
            point.dirty = False
    for inner in group.groups.values():
        for one in inner if isinstance(inner, list) else [inner]:
            yield from _dirty(one)


def _merged(parts: Iterator[tuple[int, bytes]]) -> list[tuple[int, bytes]]:
    merged: list[tuple[int, bytes]] = []
    for offset, data in sorted(parts):
        if merged and merged[-1][0] + len(merged[-1][1]) // BYTES_PER_REGISTER == offset:
            merged[-1] = (merged[-1][0], merged[-1][1] + data)
        else:
            merged.append((offset, data))
    return merged


def value(point: Point) -> float | None:
    """A point's scaled value; None where the device does not implement it."""
    scaled: Any = point.cvalue
    return None if scaled is None else float(scaled)


def put(point: Point, scaled: float) -> None:
    """Give a point its scaled value, rounded to what its registers can hold."""
    point.cvalue = scaled if point.sf_required else round(scaled)
