"""`manage.py bring_up_to_date`: what a start does before it serves."""

from django.core.management.base import BaseCommand, CommandError

from keeping import upgrading
from keeping.dumps import CannotKeep


class Command(BaseCommand):
    """Apply the migrations that are missing; one that is broken off loses nothing."""

    help = "Bring the database up to this version, from what was written down where an upgrade broke off"

    def handle(self, *_: object, **__: object) -> None:
        """Do it and say so."""
        try:
            for words in upgrading.bring_up_to_date():
                self.stdout.write(words)
        except CannotKeep as fault:
            raise CommandError(str(fault)) from None
