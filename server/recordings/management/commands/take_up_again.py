"""`manage.py take_up_again`: have heard what a worker that was killed left unheard."""

from django.core.management.base import BaseCommand

from recordings.services import take_up_again


class Command(BaseCommand):
    """Run where no worker runs, before one is started."""

    help = "Queue every recording that waits to be heard and is in no queue. Run it where no worker runs."

    def handle(self, *_: object, **__: object) -> None:
        """Queue them, and say how many."""
        taken = take_up_again()
        if taken:
            self.stdout.write(f"{taken} recordings were not heard to the end; they are heard again.")
