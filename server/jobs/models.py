"""The work: what was done at each step."""

import uuid

from cases.models import Case
from django.conf import settings
from django.db import models
from django.utils import timezone
from people.models import ScopedQuerySet


class StepEntry(models.Model):
    """What somebody entered at a step of a case's job: done, undone, stuck, or a note. A log: the latest counts."""

    workshop_path = "case__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="steps")
    step = models.CharField(max_length=60)
    kind = models.CharField(max_length=8)  # done, undone, stuck, note
    rung = models.CharField(max_length=24, blank=True)  # of the ladder that is tried; empty: it came loose by itself
    note = models.CharField(max_length=400, blank=True)
    figure = models.JSONField(default=dict, blank=True)  # quantity and value, in SI
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.step} {self.kind}"
