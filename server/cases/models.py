"""Cases, and the append-only log of what was observed."""

import uuid
from functools import cached_property

from django.conf import settings
from django.db import models
from django.db.models import prefetch_related_objects
from django.utils import timezone
from garage.core import core_vehicle
from garage.models import Vehicle
from hematite.errors import HematiteError
from hematite.evidence import Observation as CoreObservation
from hematite.evidence import statements
from hematite.policy import Policy
from hematite.training import Truth
from hematite.training.drawing import condition_of
from hematite.vehicles import Vehicle as CoreVehicle
from people.models import ScopedQuerySet, Workshop
from policies.services import policy_of


class Withheld(models.TextChoices):
    """What a practice case keeps to itself: all that was heard, or what is believed of it."""

    HEARD = "heard"
    OPINION = "opinion"


class Case(models.Model):
    """One complaint about one vehicle, from hearing to proof."""

    workshop_path = "workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="cases")
    vehicle = models.ForeignKey(Vehicle, on_delete=models.PROTECT, related_name="cases")
    complaint = models.CharField(max_length=400, blank=True)
    opened_at = models.DateTimeField(default=timezone.now)
    opened_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    closed_at = models.DateTimeField(null=True, blank=True)
    closed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    outcome = models.CharField(max_length=400, blank=True)
    closing = models.TextField(blank=True)  # what was proven, what not, and which steps were open
    unproven_because = models.CharField(max_length=400, blank=True)
    # The bundle that it was taken in from: its workshop, when it was made, when and by whom it was taken in.
    came_from = models.JSONField(default=dict, blank=True)
    # What is wrong where, as the simulated pickup plays it; empty for a real vehicle.
    simulated = models.JSONField(default=dict, blank=True)
    # On a practice bench: what the hubs hide, as the core's trainer keeps it, and what is not shown before the answer.
    practice = models.JSONField(default=dict, blank=True)
    withheld = models.CharField(max_length=8, blank=True, choices=Withheld.choices)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["workshop", "closed_at", "-opened_at"])]
        ordering = ["-opened_at"]

    def __str__(self) -> str:
        return f"{self.vehicle} {self.opened_at:%Y-%m-%d}"

    @cached_property
    def policy(self) -> Policy:
        """Return the workshop's policy, read once."""
        return policy_of(self.workshop_id)

    @cached_property
    def core(self) -> CoreVehicle:
        """Return the vehicle as the core knows it."""
        return core_vehicle(self.vehicle, self.policy)

    @cached_property
    def truth(self) -> Truth | None:
        """Return what a practice case hides; None for any other."""
        return Truth.from_json(self.practice) if self.practice else None

    def hides(self, hub: str) -> str:
        """Return the condition that the simulated pickup, gauge and nut have at a hub."""
        if self.truth is not None:
            return condition_of(self.truth.causes.get(hub, ""), road=False)
        return str(self.simulated.get(hub, "sound"))

    @cached_property
    def recorded(self) -> list:
        """Return every recording with sound, analysis and person, oldest first: read once, at the first question."""
        return list(self.recordings.select_related("sound", "analysis", "person"))

    @cached_property
    def departed(self) -> list:
        """Return every departure from the workshop's ways, oldest first: read once, at the first question."""
        return list(self.departures.select_related("person"))

    @cached_property
    def log(self) -> "list[Observation]":
        """Return every entry, oldest first, `superseded` and `unfit` known of each: read once, when first asked."""
        prefetch_related_objects([self], "observations__person")
        rows = list(self.observations.all())
        corrected = {row.supersedes_id for row in rows}
        for row in rows:
            row.superseded = row.id in corrected
            row.unfit = _unfit(row, self.core)
        return rows


def _unfit(row: "Observation", vehicle: CoreVehicle) -> str:
    """Return why an entry does not fit a vehicle: its hub may have been corrected to another design."""
    try:
        statements(CoreObservation(row.kind, row.hub, row.value), vehicle)
    except HematiteError as refusal:
        return str(refusal)
    return ""


class Observation(models.Model):
    """What a mechanic found. Never edited: a correction is a new row that supersedes the old."""

    workshop_path = "case__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="observations")
    hub = models.CharField(max_length=8, blank=True)
    kind = models.CharField(max_length=24)
    value = models.JSONField(default=dict)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)  # when it came in: the order of the log
    found_at = models.DateTimeField(default=timezone.now)  # `at`, less what it waited on the device
    supersedes = models.OneToOneField(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="superseded_by"
    )
    withdrawn = models.BooleanField(default=False)  # a correction that only takes back what it supersedes
    job = models.UUIDField(null=True, blank=True)  # the verdict whose job it was found after; empty: before any
    superseded: bool  # known of entries read with their case's log
    unfit: str  # why it does not fit the vehicle as it is described now, '' where it does; known as `superseded` is

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.kind} at {self.hub or 'the vehicle'}"
