"""The server's name in the house: answers multicast DNS (RFC 6762) for `hematite.local`, so that phones find it.

Run by the Python that has the packages: `python -m ops.announce NAME PORT [ADDRESS …]`; goes on until it is stopped.
"""

import argparse
import signal
import socket
import threading

from zeroconf import NonUniqueNameException, ServiceInfo, Zeroconf

from ops.say import say


def main() -> None:
    """Announce until stopped. Where the network allows none of it, say so and rest: the addresses work without."""
    wanted = argparse.ArgumentParser(description=__doc__)
    wanted.add_argument("name")
    wanted.add_argument("port", type=int)
    wanted.add_argument("addresses", nargs="*")
    asked = wanted.parse_args()
    stopped = threading.Event()
    signal.signal(signal.SIGTERM, lambda *_: stopped.set())
    announced = None
    try:
        announced = announce(asked.name, asked.port, asked.addresses)
    except NonUniqueNameException:
        say(f"Another machine here is called {asked.name} already. Give this one another: HEMATITE_NAME=….local")
    except OSError as error:
        say(f"{asked.name} cannot be announced on this network ({error}); its addresses work all the same.")
    stopped.wait()
    if announced:
        announced.unregister_all_services()
        announced.close()


def announce(name: str, port: int, addresses: list[str]) -> Zeroconf:
    """Answer for `name`; close what is returned to end it. Raises OSError, or where another machine has the name."""
    label = name.removesuffix(".local")
    kind = "_https._tcp.local."
    packed = [socket.inet_aton(address) for address in addresses]
    info = ServiceInfo(kind, f"{label}.{kind}", port=port, addresses=packed, server=f"{label}.local.")
    answering = Zeroconf(interfaces=addresses)
    try:
        answering.register_service(info)
    except Exception:
        answering.close()
        raise
    return answering


if __name__ == "__main__":
    main()
