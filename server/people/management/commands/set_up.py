"""`manage.py set_up`: the first workshop and its owner, by a one-time code or at once."""

from getpass import getpass

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from workshop.refusals import Refusal

from people import invitations


class Command(BaseCommand):
    """Set up the first workshop."""

    help = "Print a one-time code to set up the first workshop; with --workshop and --username set it up at once"

    def add_arguments(self, parser: CommandParser) -> None:
        """Take who it is, or nothing for a code."""
        parser.add_argument("--if-needed", action="store_true", help="say nothing once somebody can sign in")
        parser.add_argument("--workshop", help="its name")
        parser.add_argument("--username", help="the name to sign in with")
        parser.add_argument("--name", help="the name that is shown")
        parser.add_argument("--language", default="", choices=["", *settings.SPOKEN], help="that it speaks")
        parser.add_argument("--password", help="asked for if it is not given")

    def handle(self, *_: object, if_needed: bool, **said: str | None) -> None:
        """Print a code, or make workshop and owner."""
        if if_needed and not invitations.nobody_yet():
            return
        try:
            code = invitations.set_up_code()
            if not said["workshop"]:
                self.stdout.write(code)
                return
            if not said["username"]:
                raise CommandError("Say --username too: the name that the owner signs in with.")
            password = said["password"] or getpass("Password of the owner: ")
            new = invitations.Newcomer(said["username"], said["name"] or said["username"], password)
            invitations.set_up(code, said["workshop"], new, said["language"] or "")
        except Refusal as refusal:
            raise CommandError(refusal.message) from None
        self.stdout.write(f"{said['workshop']} is set up; {said['username']} signs in as owner.")
