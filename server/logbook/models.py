"""What somebody wrote into the logbook by hand, or brought along from a book kept elsewhere."""

import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone
from garage.models import Vehicle
from people.models import ScopedQuerySet


class Entry(models.Model):
    """A line written by hand. Never edited: a correction is a new line that supersedes the old."""

    workshop_path = "vehicle__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    vehicle = models.ForeignKey(Vehicle, on_delete=models.CASCADE, related_name="entries")
    hub = models.CharField(max_length=8, blank=True)
    on = models.DateField()
    kind = models.CharField(max_length=8)  # a key of `logbook.written.KINDS`
    part = models.CharField(max_length=80, blank=True)
    number = models.CharField(max_length=40, blank=True)
    batch = models.CharField(max_length=40, blank=True)
    grease = models.CharField(max_length=60, blank=True)
    torque_nm = models.FloatField(null=True, blank=True)
    play_mm = models.FloatField(null=True, blank=True)
    km = models.FloatField(null=True, blank=True)  # what the odometer showed
    words = models.CharField(max_length=400, blank=True)
    by = models.CharField(max_length=80, blank=True)  # who did it, where that is not who wrote it down
    source = models.CharField(max_length=120, blank=True)  # the file that it was brought along in
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)
    supersedes = models.OneToOneField(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="superseded_by"
    )
    withdrawn = models.BooleanField(default=False)  # a correction that only takes back what it supersedes

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["on", "at"]
        indexes = [models.Index(fields=["vehicle", "on"])]

    def __str__(self) -> str:
        return f"{self.on}: {self.kind}"
