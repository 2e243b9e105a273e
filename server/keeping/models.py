"""What the installation does by itself, and when it did so last."""

from django.db import models
from django.utils import timezone


class Chore(models.Model):
    """One kind of work that is done again and again, on whichever machine comes first. Of no workshop: of all."""

    name = models.CharField(max_length=40, primary_key=True)
    begun_at = models.DateTimeField()
    done_at = models.DateTimeField(null=True)  # the last time it went well
    failed = models.CharField(max_length=400, blank=True)  # what it said the last time, if it did not

    def __str__(self) -> str:
        return self.name


class Leaving(models.Model):
    """A kept file that no row names any more, on its way out."""

    name = models.CharField(max_length=200)
    since = models.DateTimeField(default=timezone.now)

    def __str__(self) -> str:
        return self.name
