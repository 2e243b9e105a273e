"""`manage.py take_up_again`: have heard what a worker that was killed left unheard."""

from django.core.management.base import BaseCommand

from recordings.hearing import take_up_again


class Command(BaseCommand):
    """Run by the chores again and again, and before a worker is started."""

    help = "Queue every recording that waits to be heard, that no worker holds, and that is in no queue."

    def handle(self, *_: object, **__: object) -> None:
        """Queue them, and say how many."""
        taken = take_up_again()
        if taken:
            self.stdout.write(f"{taken} recordings were not heard to the end; they are heard again.")
