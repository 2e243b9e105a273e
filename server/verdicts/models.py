"""Verdicts that somebody accepted: a frozen snapshot."""

import uuid
from collections.abc import Iterable

from cases.models import Case, Observation
from django.conf import settings
from django.db import models
from django.utils import timezone
from hematite.evidence.observations import WEIGH_NOTHING
from people.models import ScopedQuerySet

from verdicts.brief import brief_of


class Verdict(models.Model):
    """What was decided at one hub, by whom, and everything it rested on. Never edited."""

    workshop_path = "case__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="verdicts")
    hub = models.CharField(max_length=8)
    choice = models.CharField(max_length=24)
    advised = models.CharField(max_length=24)
    cause = models.CharField(max_length=24, blank=True)  # where it is looked for elsewhere
    repair = models.CharField(max_length=24, blank=True)  # what is to be mended once the vehicle stands
    reason = models.CharField(max_length=400, blank=True)
    assessment = models.JSONField()
    # What it rested on: vehicle, observations, recordings, photographs, policy with this case's departures, prices.
    snapshot = models.JSONField(default=dict)
    brief = models.JSONField(default=dict, blank=True, editable=False)  # follows from the snapshot: see `brief_of`
    core_version = models.CharField(max_length=20)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["at"]

    def __str__(self) -> str:
        return f"{self.hub}: {self.choice}"

    def save(self, *args, **kwargs) -> None:
        """Keep with it what long lists ask of its snapshot."""
        self.brief = brief_of(self.snapshot, hub=self.hub, choice=self.choice)
        super().save(*args, **kwargs)

    def news_since_decided(self, standing: Iterable[Observation]) -> bool:
        """Return whether something was found at the hub, or of the vehicle, since it was decided."""
        own = (row for row in standing if row.hub in ("", self.hub) and row.kind not in WEIGH_NOTHING)
        return any(row.at > self.at for row in own)


class Departure(models.Model):
    """One case goes another way than the workshop, with a reason. Append-only: the latest of a school counts."""

    workshop_path = "case__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="departures")
    school = models.CharField(max_length=24)
    option = models.CharField(max_length=24, blank=True)  # empty: back to the workshop's way
    reason = models.CharField(max_length=400)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.school}: {self.option or 'as the workshop'}"
