"""What was worked out and kept."""

import uuid

from cases.models import Case
from django.conf import settings
from django.db import models
from django.utils import timezone
from people.models import ScopedQuerySet


class Worked(models.Model):
    """A sum as it was answered when somebody kept it: with the step, the case and the vehicle. A log."""

    workshop_path = "case__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="worked")
    hub = models.CharField(max_length=8)
    step = models.CharField(max_length=60, blank=True)
    sum = models.CharField(max_length=16)
    values = models.JSONField(default=dict)  # what it was asked with, as the core's table of fields has it
    line = models.CharField(max_length=200)
    level = models.CharField(max_length=8)
    keep = models.JSONField(default=dict, blank=True)  # what the vehicle remembers of it
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]
        indexes = [models.Index(fields=["case", "hub"])]

    def __str__(self) -> str:
        return f"{self.hub} {self.sum}: {self.line}"
