"""When to look again, and what was read off the odometer in between."""

import uuid

from cases.models import Case
from django.conf import settings
from django.db import models
from django.utils import timezone
from garage.models import Vehicle
from people.models import ScopedQuerySet, Workshop


class Reading(models.Model):
    """What stood on a vehicle's odometer or hour meter on a day. Corrected by a reading that supersedes it."""

    workshop_path = "vehicle__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    vehicle = models.ForeignKey(Vehicle, on_delete=models.CASCADE, related_name="readings")
    on = models.DateField()
    km = models.FloatField(null=True, blank=True)
    hours = models.FloatField(null=True, blank=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)
    supersedes = models.OneToOneField(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="superseded_by"
    )
    withdrawn = models.BooleanField(default=False)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["on", "at"]
        indexes = [models.Index(fields=["vehicle", "on"])]

    def __str__(self) -> str:
        return f"{self.on}: {self.km} km"


class Recheck(models.Model):
    """A promise to look again at a hub or a vehicle, by date, distance or hours of work; and how it was answered.

    `due_km` and `due_hours` are what the odometer will show. `expected_on` and `soonest_on` are made from what is known
    of the vehicle's use, anew with every reading: lists are sorted by them.
    """

    workshop_path = "workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="+")
    vehicle = models.ForeignKey(Vehicle, on_delete=models.CASCADE, related_name="rechecks")
    case = models.ForeignKey(Case, on_delete=models.CASCADE, null=True, blank=True, related_name="rechecks")
    hub = models.CharField(max_length=8, blank=True)
    key = models.CharField(max_length=24)  # of the core's table; own: of nobody's but the one who planned it
    label = models.CharField(max_length=120)
    asks = models.CharField(max_length=16)
    why = models.CharField(max_length=400, blank=True)
    due_on = models.DateField(null=True, blank=True)
    after_km = models.PositiveIntegerField(null=True, blank=True)
    due_km = models.FloatField(null=True, blank=True)
    after_hours = models.PositiveIntegerField(null=True, blank=True)
    due_hours = models.FloatField(null=True, blank=True)
    expected_on = models.DateField(null=True, blank=True)
    soonest_on = models.DateField(null=True, blank=True)
    latest_on = models.DateField(null=True, blank=True)
    passed = models.BooleanField(default=False)  # the odometer showed more than `due_km`
    planned_at = models.DateTimeField(default=timezone.now)
    planned_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    done_at = models.DateTimeField(null=True, blank=True)
    done_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    outside = models.BooleanField(null=True)  # None: not answered, or dropped
    said = models.CharField(max_length=400, blank=True)
    reading = models.JSONField(default=dict, blank=True)
    opened = models.ForeignKey(Case, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["expected_on", "planned_at"]
        indexes = [
            models.Index(fields=["workshop", "done_at", "expected_on"]),
            models.Index(fields=["vehicle", "done_at"]),
        ]

    def __str__(self) -> str:
        return f"{self.label} by {self.due_on}"


class Feel(models.Model):
    """How warm a hand found a hub at a stop on the way. A trip is numbered on the device that goes along."""

    workshop_path = "vehicle__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    vehicle = models.ForeignKey(Vehicle, on_delete=models.CASCADE, related_name="feels")
    trip = models.UUIDField()
    stop = models.PositiveSmallIntegerField(default=1)
    place = models.CharField(max_length=80, blank=True)
    hub = models.CharField(max_length=8)
    felt = models.CharField(max_length=8)
    felt_at = models.DateTimeField()  # when it came in, less what it waited on the device
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["felt_at", "id"]
        indexes = [models.Index(fields=["vehicle", "felt_at"])]

    def __str__(self) -> str:
        return f"{self.hub} {self.felt}"


class Feed(models.Model):
    """The secret address under which a calendar asks for a workshop's rechecks; a new one ends the old."""

    workshop_path = "workshop"

    workshop = models.OneToOneField(Workshop, on_delete=models.CASCADE, related_name="feed")
    secret = models.CharField(max_length=64, unique=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now=True)

    objects = ScopedQuerySet.as_manager()

    def __str__(self) -> str:
        return f"feed of {self.workshop}"
