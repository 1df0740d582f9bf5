"""Print the first free TCP port on loopback among those given, or any free one."""

import socket
import sys


def bind(port: int) -> int | None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return None
        return int(probe.getsockname()[1])


print(next(port for wanted in [*map(int, sys.argv[1:]), 0] if (port := bind(wanted))))
