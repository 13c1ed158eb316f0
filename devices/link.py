"""One Modbus TCP connection, and the plain ways in which it can fail."""

from __future__ import annotations

import time
from types import TracebackType
from typing import Self

from pymodbus import pymodbus_apply_logging_config
from pymodbus.client import ModbusTcpClient
from pymodbus.exceptions import ConnectionException, ModbusException, ModbusIOException
from pymodbus.pdu import ModbusPDU

from core.job.readings import Outcome

ANSWER_TIMEOUT_S = 2.0
# What one opening of the line may take in all.
LIMIT_S = 25.0
# Most registers in one request, from the Modbus application protocol, V1.1b3, 6.3 and 6.12.
MOST_READ = 125
MOST_WRITTEN = 123
BYTES_PER_REGISTER = 2

# What goes wrong on the line is told to the user; the library's own dump of bytes is not.
pymodbus_apply_logging_config("CRITICAL")


class LinkProblem(Exception):
    """The line failed: `outcome` says how, `detail` with what, `code` by which Modbus exception."""

    def __init__(self, outcome: Outcome, detail: str, code: int = 0) -> None:
        super().__init__(detail)
        self.outcome = outcome
        self.detail = detail
        self.code = code


class Link:
    """Reads and writes holding registers of one unit; a context manager that always hangs up.

    limit_s: everything that is asked over it must be answered within that time of its making;
    what is asked later fails as *silent*.
    """

    def __init__(self, host: str, port: int, unit_id: int, limit_s: float = LIMIT_S) -> None:
        self._unit_id = unit_id
        self._limit_s = limit_s
        self._ends_at = time.monotonic() + limit_s
        self._heard = False
        self._client = ModbusTcpClient(
            host,
            port=port,
            timeout=min(ANSWER_TIMEOUT_S, limit_s),
            retries=0,
            trace_packet=self._trace,
        )

    def turn_to(self, unit_id: int) -> None:
        """Ask another unit behind the same address from now on."""
        self._unit_id = unit_id

    def _trace(self, sending: bool, data: bytes) -> bytes:
        if not sending and data:
            self._heard = True
        return data

    def __enter__(self) -> Self:
        try:
            reached = self._client.connect()
        except (OSError, UnicodeError, ModbusException) as error:
            raise LinkProblem("unreachable", str(error)) from None
        if not reached:
            raise LinkProblem("unreachable", "no connection")
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self._client.close()

    def read(self, address: int, count: int) -> bytes:
        """`count` registers from `address` on, as bytes, most significant first."""
        data = b""
        while count > 0:
            part = min(count, MOST_READ)
            response = self._prompt("read", address, part)
            registers = response.registers
            if len(registers) != part:
                raise LinkProblem("garbage", f"{len(registers)} of {part} registers at {address}")
            data += b"".join(register.to_bytes(BYTES_PER_REGISTER, "big") for register in registers)
            address, count = address + part, count - part
        return data

    def write(self, address: int, data: bytes) -> None:
        """Write whole registers from `address` on; LinkProblem refused when the device says no."""
        step = MOST_WRITTEN * BYTES_PER_REGISTER
        for start in range(0, len(data), step):
            part = data[start : start + step]
            registers = [
                int.from_bytes(part[i : i + BYTES_PER_REGISTER], "big")
                for i in range(0, len(part), BYTES_PER_REGISTER)
            ]
            self._prompt("write", address + start // BYTES_PER_REGISTER, registers)

    def _prompt(self, what: str, address: int, count_or_values: int | list[int]) -> ModbusPDU:
        self._heard = False
        left_s = self._ends_at - time.monotonic()
        if left_s <= 0:
            raise LinkProblem("silent", f"not done within {self._limit_s:g} s")
        self._client.comm_params.timeout_connect = min(ANSWER_TIMEOUT_S, left_s)
        try:
            if isinstance(count_or_values, int):
                response = self._client.read_holding_registers(
                    address, count=count_or_values, device_id=self._unit_id
                )
            else:
                response = self._client.write_registers(
                    address, count_or_values, device_id=self._unit_id
                )
        except ModbusIOException as error:
            raise LinkProblem("garbage" if self._heard else "silent", str(error)) from None
        except (ConnectionException, OSError):
            outcome: Outcome = "garbage" if self._heard else "closed"
            raise LinkProblem(outcome, "the line was closed in the middle of an answer") from None
        except (ModbusException, ValueError, IndexError) as error:
            raise LinkProblem("garbage", str(error)) from None
        if response.isError():
            code = getattr(response, "exception_code", 0)
            raise LinkProblem(
                "refused", f"{what} at register {address}, Modbus exception {code}", code
            )
        return response
