"""A line between browser and server that can be cut, or that drops what it carries now and then."""

import contextlib
import random
import socket
import threading

PIECE = 16_384


class Link:
    """A relay on loopback. `up`: whether anything passes; `loss`: how likely a piece of a connection ends it."""

    def __init__(self, host: str, port: int, *, seed: int = 0) -> None:
        """Listen on a port of its own, and pass on to `host` and `port`."""
        self.up, self.loss, self.dropped = True, 0.0, 0
        self._to, self._dice, self._open = (host, port), random.Random(seed), set()
        self._door = socket.create_server(("localhost", 0))
        self.url = f"http://localhost:{self._door.getsockname()[1]}"
        threading.Thread(target=self._listen, daemon=True).start()

    def cut(self) -> None:
        """Let nothing through any more, and end what is under way."""
        self.up = False
        for ends in list(self._open):
            self._end(*ends)

    def close(self) -> None:
        """Stop listening."""
        self.cut()
        self._door.close()

    def _listen(self) -> None:
        while True:
            try:
                near, _ = self._door.accept()
            except OSError:
                return
            if not self.up:
                near.close()
                continue
            ends = near, socket.create_connection(self._to)
            self._open.add(ends)
            for one, other in (ends, ends[::-1]):
                threading.Thread(target=self._pass_on, args=(one, other, ends), daemon=True).start()

    def _pass_on(self, one: socket.socket, other: socket.socket, ends: tuple[socket.socket, socket.socket]) -> None:
        with contextlib.suppress(OSError):
            while piece := one.recv(PIECE):
                if self._dice.random() < self.loss:
                    self.dropped += 1
                    break
                other.sendall(piece)
        self._end(*ends)

    def _end(self, *ends: socket.socket) -> None:
        self._open.discard(ends)
        for end in ends:
            with contextlib.suppress(OSError):
                end.shutdown(socket.SHUT_RDWR)
            end.close()
