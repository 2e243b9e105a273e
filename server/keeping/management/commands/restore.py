"""`manage.py restore`: bring an archive back into an empty installation."""

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from keeping import archive


class Command(BaseCommand):
    """Overwrites nothing: where there are people already it refuses."""

    help = "Bring a backup back into an empty database, and its files with it. --list: say which there are."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where from."""
        parser.add_argument("repository", nargs="?", help="a folder, or ssh://…; else HEMATITE_BACKUP")
        parser.add_argument("--archive", default="", help="which one; else the latest")
        parser.add_argument("--list", action="store_true", help="say which there are, and bring nothing back")

    def handle(self, *_: Any, repository: str | None, **said: Any) -> None:
        """Bring it back, and say what came."""
        where = repository or settings.BACKUP
        if not where:
            raise CommandError("Say where from: the folder of the backups, or set HEMATITE_BACKUP.")
        try:
            if said["list"]:
                self.stdout.write("\n".join(archive.archives(where)))
                return
            done = archive.restore(where, said["archive"])
        except archive.CannotKeep as fault:
            raise CommandError(str(fault)) from None
        self.stdout.write(f"{done.archive}, made {done.made_at}: {sum(done.rows.values())} rows, {done.files} files.")
        for name in done.lost:
            self.stderr.write(f"Not in the archive, or not what was kept: {name}")
        if done.lost:
            raise CommandError(f"{len(done.lost)} files did not come back.")
