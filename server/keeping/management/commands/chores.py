"""`manage.py chores`: do what is due, again and again."""

import logging
import signal
import threading
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import close_old_connections

from keeping.chores import Doing

log = logging.getLogger(__name__)
LOOKS_S = 5


class Command(BaseCommand):
    """Runs beside the servers, on as many machines as one likes."""

    help = "Do what is due by itself: recordings that no worker holds, backups, clearing away. Goes on until stopped."

    def add_arguments(self, parser: CommandParser) -> None:
        """Once, for a schedule of the system's."""
        parser.add_argument("--once", action="store_true", help="Do what is due now, and end.")

    def handle(self, *_: Any, once: bool, **__: Any) -> None:
        """Look every few seconds; a database that is away for a while is waited for."""
        stopped = threading.Event()
        signal.signal(signal.SIGTERM, lambda *_: stopped.set())
        doing = Doing()
        while not stopped.is_set():
            close_old_connections()
            try:
                doing.what_is_due()
            except Exception:
                if once:
                    raise
                log.exception("The chores")
            if once:
                return
            stopped.wait(LOOKS_S)
