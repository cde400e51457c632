"""The server: gunicorn keeps the processes, waitress speaks to the browsers in each.

gunicorn's own threads each wait for one browser: sixteen requests that are half sent, or read slowly, keep sixteen threads from
everybody else. waitress takes in a whole request, and hands out a whole answer, in one loop beside the threads: only what is
complete takes a thread (docs/decisions/0012).
"""

import os
import time
from typing import Any

from gunicorn.app.base import BaseApplication
from gunicorn.arbiter import Arbiter
from gunicorn.workers.base import Worker
from waitress.server import create_server

#: Twice the largest thing sent: what is somewhat too large is refused in words (api/door.py), the rest at once.
MOST_BYTES = 64 * 1024 * 1024
#: A browser that has sent or taken nothing for so long is let go.
SILENT_S = 30
#: So many browsers at once in a process, those that send nothing included.
MOST_BROWSERS = 400


class Buffered(Worker):
    """A process whose threads only ever see whole requests."""

    def run(self) -> None:
        server = create_server(
            self.wsgi, sockets=[s.sock for s in self.sockets], threads=self.cfg.threads, ident=None, expose_tracebacks=False,
            channel_timeout=SILENT_S, cleanup_interval=5, connection_limit=MOST_BROWSERS, asyncore_use_poll=True,
            max_request_body_size=MOST_BYTES,
            # A proxy for TLS runs on this machine and says what it was asked over; nobody else is believed.
            trusted_proxy="127.0.0.1", trusted_proxy_headers={"x-forwarded-proto", "x-forwarded-for"},
        )  # fmt: skip
        while self.alive and self._has_master():
            server.asyncore.loop(timeout=0.5, map=server._map, use_poll=True, count=1)
            self.notify()
        server.accepting = False
        until = time.monotonic() + (self.cfg.graceful_timeout if self._has_master() else 0)
        while time.monotonic() < until and any(_busy(c) for c in list(server.active_channels.values())):
            server.asyncore.loop(timeout=0.1, map=server._map, use_poll=True, count=1)
            self.notify()
        server.task_dispatcher.shutdown(timeout=0.1)

    def _has_master(self) -> bool:
        """A killed master takes its workers with it: nobody else would end them."""
        return os.getppid() == self.ppid


def _busy(channel: Any) -> bool:
    return bool(channel.requests or channel.total_outbufs_len)


class _UntilTold(Arbiter):
    """A master that any signal ends: the terminal it ran in is closed, and it goes on without its window no longer."""

    def handle_hup(self) -> None:
        self.handle_term()

    def handle_usr2(self) -> None:
        self.handle_term()


class Served(BaseApplication):  # type: ignore[misc]
    """The workshop behind an address, until a signal ends it."""

    def __init__(self, bind: str, workers: int, threads: int = 4) -> None:
        self.told = {
            "bind": bind, "workers": workers, "threads": threads, "worker_class": Buffered, "loglevel": "warning",
            "control_socket_disable": True, "proc_name": "insertum",
        }  # fmt: skip
        super().__init__()

    def load_config(self) -> None:
        for name, value in self.told.items():
            self.cfg.set(name, value)

    def load(self) -> Any:
        from .wsgi import application

        return application

    def run(self) -> None:
        _UntilTold(self).run()
