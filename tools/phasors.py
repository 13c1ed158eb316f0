"""A radial feeder solved conductor by conductor to 25 digits, to hold the ladder of volts against.

Every conductor is a wire of its own with its own volts, the inverter a constant power between
line and return; the nodal equations are solved again until nothing moves. Slow and exact; it
shares no line with the core.
"""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal, localcontext
from typing import Literal, NamedTuple

Service = Literal["single", "split", "three"]
DIGITS = 25
M_PER_KM = Decimal(1000)
SETTLED_V = Decimal("1e-18")
MOST_ROUNDS = 200
HALF = Decimal("0.5")


class Phasor(NamedTuple):
    """A complex number of decimals."""

    re: Decimal
    im: Decimal

    def plus(self, other: Phasor) -> Phasor:
        return Phasor(self.re + other.re, self.im + other.im)

    def minus(self, other: Phasor) -> Phasor:
        return Phasor(self.re - other.re, self.im - other.im)

    def times(self, other: Phasor) -> Phasor:
        re = self.re * other.re - self.im * other.im
        return Phasor(re, self.re * other.im + self.im * other.re)

    def over(self, other: Phasor) -> Phasor:
        square = other.re**2 + other.im**2
        up = self.times(other.conjugate())
        return Phasor(up.re / square, up.im / square)

    def conjugate(self) -> Phasor:
        return Phasor(self.re, -self.im)

    def size(self) -> Decimal:
        return (self.re**2 + self.im**2).sqrt()


ZERO, ONE = Phasor(Decimal(0), Decimal(0)), Phasor(Decimal(1), Decimal(0))


@dataclass(frozen=True, kw_only=True)
class Feeder:
    """One feeder. pieces: length in m, resistance and reactance of a conductor in ohm/km.

    power: of all phases together in VA, reactive part positive when injecting.
    """

    service: Service
    supply_v: float
    pieces: tuple[tuple[float, float, float], ...]
    power: complex


def solve(feeder: Feeder) -> list[float]:
    """Volts at each rung from the supply, between line and return as the inverter sees them."""
    with localcontext() as context:
        context.prec = DIGITS
        return _solved(feeder)


def _solved(feeder: Feeder) -> list[float]:
    sources = _sources(feeder)
    wires, count = len(sources), len(feeder.pieces)
    ohms = [
        Phasor(*(Decimal(length) * Decimal(one) / M_PER_KM for one in (r, x)))
        for length, r, x in feeder.pieces
    ]
    matrix = _matrix(ohms, wires)
    fixed = [ZERO] * (wires * count)
    for wire, source in enumerate(sources):
        fixed[wire * count] = source.over(ohms[0])
    volts = [sources[wire] for wire in range(wires) for _ in range(count)]
    for _ in range(MOST_ROUNDS):
        drive = list(fixed)
        for out, back, power in _loads(feeder):
            last, other = out * count + count - 1, back * count + count - 1
            current = power.over(volts[last].minus(volts[other])).conjugate()
            drive[last] = drive[last].plus(current)
            drive[other] = drive[other].minus(current)
        new = _gauss(matrix, drive)
        moved = max(a.minus(b).size() for a, b in zip(new, volts, strict=True))
        volts = new
        if moved < SETTLED_V:
            break
    back = wires - 1
    ends = (volts[n].minus(volts[back * count + n]).size() for n in range(count))
    return [feeder.supply_v, *(float(one) for one in ends)]


def _sources(feeder: Feeder) -> list[Phasor]:
    volts, none = Decimal(feeder.supply_v), Decimal(0)
    if feeder.service == "single":
        return [Phasor(volts, none), ZERO]
    if feeder.service == "split":
        return [Phasor(volts * HALF, none), Phasor(-volts * HALF, none)]
    aside = Decimal(3).sqrt() * HALF * volts
    turned = [Phasor(-volts * HALF, -aside), Phasor(-volts * HALF, aside)]
    return [Phasor(volts, none), *turned, ZERO]


def _loads(feeder: Feeder) -> list[tuple[int, int, Phasor]]:
    phases = 3 if feeder.service == "three" else 1
    power = Phasor(*(Decimal(one) / phases for one in (feeder.power.real, feeder.power.imag)))
    return [(n, 3 if phases > 1 else 1, power) for n in range(phases)]


def _matrix(ohms: list[Phasor], wires: int) -> list[list[Phasor]]:
    count = len(ohms)
    rows = [[ZERO] * (wires * count) for _ in range(wires * count)]
    for wire in range(wires):
        for n, ohm in enumerate(ohms):
            here, mho = wire * count + n, ONE.over(ohm)
            rows[here][here] = rows[here][here].plus(mho)
            if n > 0:
                rows[here - 1][here - 1] = rows[here - 1][here - 1].plus(mho)
                rows[here][here - 1] = rows[here][here - 1].minus(mho)
                rows[here - 1][here] = rows[here - 1][here].minus(mho)
    return rows


def _gauss(matrix: list[list[Phasor]], right: list[Phasor]) -> list[Phasor]:
    size = len(right)
    rows = [[*row, value] for row, value in zip(matrix, right, strict=True)]
    for n in range(size):
        pivot = max(range(n, size), key=lambda row: rows[row][n].size())
        rows[n], rows[pivot] = rows[pivot], rows[n]
        for below in range(n + 1, size):
            if rows[below][n] == ZERO:
                continue
            factor = rows[below][n].over(rows[n][n])
            for column in range(n, size + 1):
                rows[below][column] = rows[below][column].minus(factor.times(rows[n][column]))
    found = [ZERO] * size
    for n in reversed(range(size)):
        known = ZERO
        for k in range(n + 1, size):
            known = known.plus(rows[n][k].times(found[k]))
        found[n] = rows[n][size].minus(known).over(rows[n][n])
    return found
