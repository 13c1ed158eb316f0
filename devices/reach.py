"""Which addresses may be spoken to: on the house's own network, and allowed by who runs this."""

from __future__ import annotations

import socket
from collections.abc import Iterable
from dataclasses import dataclass
from ipaddress import IPv4Address, IPv4Network, IPv6Address, IPv6Network, ip_address, ip_network

from core.base.errors import Refused, problem

Network = IPv4Network | IPv6Network
Address = IPv4Address | IPv6Address

# IANA: Modbus over TCP.
MODBUS, MOST_PORT = 502, 65_535
NOT_PRIVATE = (
    "{host} is not an address of a private network. Only devices on the house's own network are "
    "spoken to. Nothing was sent."
)
NOT_ALLOWED = (
    "{host} is not allowed yet on port {port}. Who runs this installation allows devices by their "
    "network and ports, in LONG_NOON_DEVICES. Nothing was sent."
)
UNKNOWN = "{host} is not known on this network. Nothing was sent."


@dataclass(frozen=True)
class Allowed:
    """A network, and the ports on which its devices may be spoken to."""

    network: Network
    ports: tuple[range, ...]

    def __str__(self) -> str:
        shown = "+".join(str(p.start) if len(p) == 1 else f"{p[0]}-{p[-1]}" for p in self.ports)
        return f"{self.network}@{shown}"

    def holds(self, address: Address, port: int) -> bool:
        """Whether a device there may be spoken to on that port."""
        return address in self.network and any(port in ports for ports in self.ports)


def networks(words: Iterable[str]) -> tuple[Allowed, ...]:
    """Networks and ports from their words: 192.168.4.0/24, or 192.168.4.0/24@502+1502-1510.

    Without ports, Modbus's own. ValueError names a word that is none.
    """
    return tuple(_allowed(word.strip()) for word in words if word.strip())


def _allowed(word: str) -> Allowed:
    network, _, ports = word.partition("@")
    spans = [span.partition("-") for span in ports.split("+")] if ports else []
    found = tuple(range(int(low), int(high or low) + 1) for low, _, high in spans)
    if any(not span or span[0] < 1 or span[-1] > MOST_PORT for span in found):
        raise ValueError(f"{word}: ports are 1 to {MOST_PORT}")
    return Allowed(ip_network(network, strict=False), found or (range(MODBUS, MODBUS + 1),))


def reachable(
    host: str, allowed: tuple[Allowed, ...], path: str = "$.grid.host", port: int = MODBUS
) -> str:
    """The address behind a host name, once it is private and allowed: connect to it, not to the
    name, which could stand for another by then.

    Raises Refused, and nothing is sent.
    """
    found = _addresses(host)
    if not found:
        raise Refused([problem(path, host, "a device on this network", UNKNOWN.format(host=host))])
    if not all(one.is_private or one.is_loopback or one.is_link_local for one in found):
        said = NOT_PRIVATE.format(host=host)
        raise Refused([problem(path, host, "an address of a private network", said)])
    known = next((one for one in found if any(net.holds(one, port) for net in allowed)), None)
    if known is None:
        shown = " · ".join(map(str, allowed)) or "none is allowed yet"
        said = NOT_ALLOWED.format(host=host, port=port)
        raise Refused([problem(path, host, shown, said)])
    return str(known)


def _addresses(host: str) -> list[Address]:
    try:
        return [_mapped(ip_address(host))]
    except ValueError:
        pass
    try:
        found = socket.getaddrinfo(host, None, type=socket.SOCK_STREAM)
    except (OSError, UnicodeError):
        return []
    return [_mapped(ip_address(str(one[4][0]).partition("%")[0])) for one in found]


def _mapped(address: Address) -> Address:
    """An IPv4 address written as an IPv6 one, as itself."""
    inner = address.ipv4_mapped if isinstance(address, IPv6Address) else None
    return inner or address
