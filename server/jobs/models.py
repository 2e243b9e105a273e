"""The work: steps ticked, and when to come back."""

import uuid

from cases.models import Case
from django.conf import settings
from django.db import models
from people.models import ScopedQuerySet
from verdicts.models import Verdict


class StepTick(models.Model):
    """A step done, or undone again: a log, the latest row of a step counts."""

    workshop_path = "verdict__case__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    verdict = models.ForeignKey(Verdict, on_delete=models.CASCADE, related_name="ticks")
    step = models.CharField(max_length=40)
    done = models.BooleanField()
    note = models.CharField(max_length=200, blank=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.step} {'done' if self.done else 'undone'}"


class Recheck(models.Model):
    """A promise to look again, by date and distance."""

    workshop_path = "case__workshop"

    case = models.OneToOneField(Case, on_delete=models.CASCADE, related_name="recheck")
    due_on = models.DateField(null=True, blank=True)
    after_km = models.PositiveIntegerField(null=True, blank=True)
    why = models.CharField(max_length=200)

    objects = ScopedQuerySet.as_manager()

    def __str__(self) -> str:
        return f"by {self.due_on} or after {self.after_km} km"
