"""Photographs of what was found: evidence that the mechanic made."""

import uuid

from cases.models import Case
from django.conf import settings
from django.db import models
from django.utils import timezone
from people.models import ScopedQuerySet


class Photo(models.Model):
    """One photograph of a part. The picture lies below MEDIA_ROOT, without where and when it was taken."""

    workshop_path = "case__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="photos")
    hub = models.CharField(max_length=8, blank=True)  # empty: of the whole job
    part = models.CharField(max_length=32)
    sent_sha256 = models.CharField(max_length=64)  # of the file as it came, to know it when it is sent again
    file = models.CharField(max_length=200)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)
    withdrawn = models.BooleanField(default=False)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.part} at {self.hub}"
