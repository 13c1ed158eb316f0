"""Which addresses may be spoken to: on the house's own network, and allowed by who runs this."""

from __future__ import annotations

import socket
from collections.abc import Iterable
from ipaddress import IPv4Address, IPv4Network, IPv6Address, IPv6Network, ip_address, ip_network

from core.base.errors import Refused, problem

Network = IPv4Network | IPv6Network
Address = IPv4Address | IPv6Address

NOT_PRIVATE = (
    "{host} is not an address of a private network. Only devices on the house's own network are "
    "spoken to. Nothing was sent."
)
NOT_ALLOWED = (
    "{host} is not allowed yet. Who runs this installation allows devices by their network, in "
    "LONG_NOON_DEVICES. Nothing was sent."
)
UNKNOWN = "{host} is not known on this network. Nothing was sent."


def networks(words: Iterable[str]) -> tuple[Network, ...]:
    """Networks from their words, as 192.168.4.0/24. ValueError names one that is none."""
    return tuple(ip_network(word.strip(), strict=False) for word in words if word.strip())


def reachable(host: str, allowed: tuple[Network, ...], path: str = "$.grid.host") -> str:
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
    known = next((one for one in found if any(one in network for network in allowed)), None)
    if known is None:
        shown = " · ".join(str(network) for network in allowed) or "none is allowed yet"
        raise Refused([problem(path, host, shown, NOT_ALLOWED.format(host=host))])
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
