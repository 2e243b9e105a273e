"""`manage.py load_demo`: the demo world, into an empty database."""

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import transaction
from people.models import Workshop

from demo.services import load


class Command(BaseCommand):
    """Load the demo."""

    help = "Load the demo world into an empty database"

    def add_arguments(self, parser: CommandParser) -> None:
        """Take --if-empty: say nothing when there is data."""
        parser.add_argument("--if-empty", action="store_true")

    def handle(self, *_: object, if_empty: bool, **__: object) -> None:
        """Load, whole or not at all."""
        if Workshop.objects.exists():
            if if_empty:
                return
            raise CommandError("The database is not empty; the demo is for an empty one.")
        self.stdout.write("Loading the demo (its recordings are simulated and heard once) …")
        with transaction.atomic():
            load()
        self.stdout.write("Demo loaded.")
