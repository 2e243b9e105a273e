"""`manage.py back_up`: write an archive of all there is, and read it back."""

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from keeping import archive


class Command(BaseCommand):
    """People may go on working."""

    help = "Back up the database and every file into a Borg repository, verify it, and forget those that are too old."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where to."""
        parser.add_argument("repository", nargs="?", help="a folder, or ssh://…; else HEMATITE_BACKUP")

    def handle(self, *_: Any, repository: str | None, **__: Any) -> None:
        """Do it, and say which archive it is."""
        where = repository or settings.BACKUP
        if not where:
            raise CommandError("Say where to: a folder on another disk, or set HEMATITE_BACKUP.")
        try:
            name = archive.back_up(where)
        except archive.CannotKeep as fault:
            raise CommandError(str(fault)) from None
        sealed = "encrypted" if settings.BACKUP_KEY else "not encrypted"
        self.stdout.write(f"{name} is in {where}, {sealed}, and was read back whole.")
