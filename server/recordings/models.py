"""Sounds, kept losslessly; recordings, which say how a sound was made; analyses, which can be made again."""

import uuid

from cases.models import Case
from django.conf import settings
from django.db import models
from django.utils import timezone
from people.models import ScopedQuerySet, Workshop


class Sound(models.Model):
    """One sound file of a workshop, kept once, found again by the SHA-256 of what was sent."""

    workshop_path = "workshop"

    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="+")
    sha256 = models.CharField(max_length=64)
    file = models.CharField(max_length=200, blank=True)  # below MEDIA_ROOT; empty: taken away by the rule of years
    ended_at = models.DateTimeField(null=True)  # when it was taken away
    file_sha256 = models.CharField(max_length=64, blank=True)  # of the file as it is kept; empty: not known
    rate = models.PositiveIntegerField()
    duration_s = models.FloatField()

    objects = ScopedQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "sha256"], name="one_sound_a_hash")]

    def __str__(self) -> str:
        return self.sha256[:12]


class Recording(models.Model):
    """A sound at a place, and how it was made. The client makes the id, so that sending twice stores once."""

    workshop_path = "case__workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="recordings")
    sound = models.ForeignKey(Sound, on_delete=models.PROTECT, related_name="recordings")
    place = models.CharField(max_length=8)
    sensor = models.CharField(max_length=8)
    situation = models.CharField(max_length=16)
    gain_group = models.CharField(max_length=40, blank=True)
    speed = models.JSONField(default=dict)
    segments = models.JSONField(default=list, blank=True)  # stretches of a road run, as the case format has them
    former = models.JSONField(default=list, blank=True)  # how it was said to be made before it was corrected
    after_repair = models.BooleanField(default=False)
    job = models.UUIDField(null=True, blank=True)  # the verdict whose job it was made after; empty: before any
    withdrawn = models.BooleanField(default=False)  # taken again: kept, but no witness
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(default=timezone.now)

    objects = ScopedQuerySet.as_manager()

    class Meta:
        ordering = ["made_at", "id"]

    def __str__(self) -> str:
        return f"{self.place} {self.made_at:%Y-%m-%d %H:%M}"


class Analysis(models.Model):
    """What the core heard in a recording. Thrown away and made again at will."""

    workshop_path = "recording__case__workshop"

    class State(models.TextChoices):
        """How far it is."""

        WAITING = "waiting"
        DONE = "done"
        FAILED = "failed"

    recording = models.OneToOneField(Recording, on_delete=models.CASCADE, related_name="analysis")
    state = models.CharField(max_length=8, choices=State.choices, default=State.WAITING)
    core_version = models.CharField(max_length=20, blank=True)
    heard = models.JSONField(null=True, blank=True)
    plot = models.JSONField(null=True, blank=True)
    error = models.CharField(max_length=400, blank=True)
    asked = models.PositiveIntegerField(default=1)  # how often hearing it was asked for: an older answer never counts
    queued_at = models.DateTimeField(null=True, blank=True)  # empty: in no queue
    held_by = models.CharField(max_length=120, blank=True)  # the process that hears it now
    held_until = models.DateTimeField(null=True, blank=True)  # unless it gives a sign of life before
    tries = models.PositiveSmallIntegerField(default=0)  # how often a worker began

    objects = ScopedQuerySet.as_manager()

    class Meta:
        verbose_name_plural = "analyses"

    def __str__(self) -> str:
        return self.state
