"""Rounds of practice, their exercises, and what is to come back."""

import uuid

from cases.models import Case
from django.conf import settings
from django.db import models
from django.utils import timezone
from hematite.bundles import vehicle_from_json
from hematite.training import Truth, described
from hematite.vehicles import Vehicle
from people.models import ScopedQuerySet


class Round(models.Model):
    """A handful of exercises, begun by somebody on one day. `topic` is '' for a mix."""

    workshop_path = "person__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="rounds")
    topic = models.CharField(max_length=12, blank=True)
    begun_at = models.DateTimeField(default=timezone.now)
    set_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["-begun_at", "id"]

    def __str__(self) -> str:
        return f"{self.person} {self.begun_at:%Y-%m-%d}"


class Exercise(models.Model):
    """One question on one made-up vehicle. Its number is its case's, which lies on the learner's bench."""

    workshop_path = "round__person__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    round = models.ForeignKey(Round, on_delete=models.CASCADE, related_name="exercises")
    number = models.PositiveSmallIntegerField()
    topic = models.CharField(max_length=12)
    matter = models.CharField(max_length=36)
    level = models.PositiveSmallIntegerField()
    vehicle = models.CharField(max_length=24, blank=True)  # by its key in the core's table; '' of real work
    truth = models.JSONField()  # what is hidden: never sent before the answer
    case = models.OneToOneField(Case, on_delete=models.SET_NULL, null=True, related_name="exercise")
    begun_at = models.DateTimeField(null=True)
    ear = models.JSONField(default=dict, blank=True)  # what was said before any plot was shown
    answer = models.JSONField(default=dict, blank=True)
    told = models.JSONField(default=dict, blank=True)  # how the answer stands, and what spoke for what
    watched = models.JSONField(default=dict, blank=True)  # what the bench itself would have answered, and how
    sure = models.FloatField(null=True)
    right = models.BooleanField(null=True)
    harm = models.CharField(max_length=8, blank=True)
    answered_at = models.DateTimeField(null=True)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["round", "number"]
        constraints = [models.UniqueConstraint(fields=["round", "number"], name="one_exercise_a_place")]

    def __str__(self) -> str:
        return f"{self.topic} {self.number}"

    @property
    def hidden(self) -> Truth:
        """Return what is hidden, as the core knows it."""
        return Truth.from_json(self.truth)

    @property
    def described(self) -> dict:
        """Return the vehicle as the case format describes it."""
        return dict(self.hidden.kept["vehicle"]) if self.hidden.kept else described(self.vehicle)

    @property
    def stands(self) -> Vehicle:
        """Return the vehicle as the core knows it."""
        return vehicle_from_json(self.described)


class Card(models.Model):
    """One matter that somebody met: when it comes back, by what the spacing keeps of it."""

    workshop_path = "person__workshop"

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="cards")
    topic = models.CharField(max_length=12)
    matter = models.CharField(max_length=36)
    state = models.JSONField()
    due_at = models.DateTimeField()

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["due_at"]
        constraints = [models.UniqueConstraint(fields=["person", "topic", "matter"], name="one_card_a_matter")]

    def __str__(self) -> str:
        return f"{self.topic}/{self.matter}"


class Heard(models.Model):
    """One trial of a pair, or of the headphones: what was said, once it was. What is right follows from the seed."""

    workshop_path = "person__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    pair = models.CharField(max_length=16)
    level = models.PositiveSmallIntegerField()
    seed = models.PositiveIntegerField()  # never sent before the answer
    begun_at = models.DateTimeField(default=timezone.now)
    said = models.CharField(max_length=1, blank=True)
    right = models.BooleanField(null=True)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["begun_at", "id"]

    def __str__(self) -> str:
        return f"{self.pair} by {self.person}"


class Lesson(models.Model):
    """A closed and proven case of the workshop that its people may learn on, without whose it was."""

    workshop_path = "case__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    case = models.OneToOneField(Case, on_delete=models.CASCADE, related_name="lesson")
    truth = models.JSONField()
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField(default=timezone.now)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["made_at", "id"]

    def __str__(self) -> str:
        return f"lesson of {self.case}"
