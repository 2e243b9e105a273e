"""Vehicles, their axles and hubs."""

import uuid

from django.core.validators import MinValueValidator
from django.db import models
from people.models import ScopedQuerySet, Workshop


class Vehicle(models.Model):
    """A vehicle of the workshop."""

    workshop_path = "workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="vehicles")
    label = models.CharField(max_length=80)
    plate = models.CharField(max_length=20, blank=True)
    tyre = models.CharField(max_length=40, blank=True)
    rolling_circumference_m = models.FloatField(null=True, blank=True, validators=[MinValueValidator(0.1)])
    age_years = models.FloatField(null=True, blank=True, validators=[MinValueValidator(0)])
    distance_km = models.FloatField(null=True, blank=True, validators=[MinValueValidator(0)])
    duty = models.JSONField(default=list, blank=True)  # words of the core's table of duties
    added_at = models.DateTimeField(auto_now_add=True)
    revision = models.PositiveIntegerField(default=1)  # counts up with every change: who changes it says what they saw
    change = models.UUIDField(null=True, blank=True)  # the number of the last change, which may be sent twice

    objects = ScopedQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["workshop", "label"])]
        ordering = ["label", "id"]

    def __str__(self) -> str:
        return self.label


class Axle(models.Model):
    """One axle; `position` counts from 1 at the front."""

    vehicle = models.ForeignKey(Vehicle, on_delete=models.CASCADE, related_name="axles")
    position = models.PositiveSmallIntegerField()
    driven = models.BooleanField(default=False)
    steered = models.BooleanField(default=False)

    class Meta:
        ordering = ["position"]
        constraints = [models.UniqueConstraint(fields=["vehicle", "position"], name="one_axle_a_position")]

    def __str__(self) -> str:
        return f"axle {self.position}"


class Hub(models.Model):
    """One wheel position. `bearings` holds rows as the case format has them."""

    axle = models.ForeignKey(Axle, on_delete=models.CASCADE, related_name="hubs")
    name = models.CharField(max_length=8)
    position = models.PositiveSmallIntegerField()
    side = models.CharField(max_length=8)
    design = models.CharField(max_length=32)
    rotating_ring = models.CharField(max_length=8, blank=True)
    play_min_mm = models.FloatField(null=True, blank=True)
    play_max_mm = models.FloatField(null=True, blank=True)
    play_source = models.CharField(max_length=120, blank=True)
    bearings = models.JSONField(default=list, blank=True)
    seal = models.JSONField(default=dict, blank=True)  # shaft_mm, housing_mm, width_mm, where measured
    fittings = models.JSONField(default=dict, blank=True)  # what was said to be fitted, as the core's questions have it
    fastenings = models.JSONField(default=dict, blank=True)  # the torque book, by whose torque it is

    class Meta:
        ordering = ["position"]
        constraints = [models.UniqueConstraint(fields=["axle", "name"], name="one_hub_a_name")]

    def __str__(self) -> str:
        return self.name
