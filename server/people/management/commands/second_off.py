"""`manage.py second_off`: take somebody's second factor off, where no owner can."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from people import second
from people.models import User


class Command(BaseCommand):
    """For the last owner, whose phone fell into the drain."""

    help = "Take the second factor off somebody who lost it."

    def add_arguments(self, parser: CommandParser) -> None:
        """Whose."""
        parser.add_argument("username")

    def handle(self, *_: Any, username: str, **__: Any) -> None:
        """Take it off."""
        person = User.objects.filter(username=username).first()
        if person is None:
            raise CommandError(f"Nobody signs in as {username}.")
        second.take_off(person, person)
        self.stdout.write(f"{username} signs in with the password alone.")
