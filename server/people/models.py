"""Workshops and their people. Every stored row belongs to a workshop."""

import uuid
from typing import Any, Self

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone
from hematite.language import later, say


class Workshop(models.Model):
    """A workshop; the line that no row crosses."""

    name = models.CharField(max_length=120, unique=True)
    hear_again = models.BooleanField(default=False)  # what earlier versions heard, in the background
    language = models.CharField(max_length=8, blank=True)  # that it speaks; empty: as each device asks
    sounds_years = models.PositiveSmallIntegerField(null=True)  # sounds of closed cases are kept; empty: for ever
    # Whose practice bench it is: a workshop of made-up vehicles that nobody else enters; empty for a real one.
    practice_of = models.OneToOneField("User", on_delete=models.CASCADE, null=True, related_name="bench")

    def __str__(self) -> str:
        return self.name


class Role(models.TextChoices):
    """What somebody is in a workshop; what that allows stands in `people.permissions`."""

    READER = "reader", later("Reader")
    APPRENTICE = "apprentice", later("Apprentice")
    MECHANIC = "mechanic", later("Mechanic")
    OWNER = "owner", later("Owner")


class User(AbstractUser):
    """Someone who signs in. `preferences` holds units, light and language, as the web app keeps them."""

    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="people")
    role = models.CharField(max_length=12, choices=Role.choices, default=Role.MECHANIC)
    demo = models.BooleanField(default=False)  # may sign in only while the demo runs
    erased_at = models.DateTimeField(null=True)  # when the name was taken off what they entered
    preferences = models.JSONField(default=dict, blank=True)
    practises = models.BooleanField(default=False)  # has a practice bench
    at_bench = False  # for the length of one request: `workshop` is the bench, see `people.bench`

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Store, but never somebody at a practice bench: that they would stay there."""
        if self.at_bench:
            raise RuntimeError("Somebody at a practice bench is not stored.")
        super().save(*args, **kwargs)

    @property
    def language(self) -> str:
        """Return the language that they are spoken to in, their own or the workshop's; empty: as the device asks."""
        return str(self.preferences.get("language") or self.workshop.language)

    @property
    def shown_name(self) -> str:
        """Return the name that others see: in full where it is known."""
        if self.erased_at:
            return say("Somebody who left")
        return self.get_full_name() or self.username


class Invitation(models.Model):
    """A way in, once: to set up a workshop, to join one, or to choose a new password. Of its secret a hash is kept."""

    class Kind(models.TextChoices):
        """What it opens."""

        SET_UP = "set_up"
        JOIN = "join"
        RESET = "reset"

    workshop_path = "workshop"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    kind = models.CharField(max_length=8, choices=Kind.choices)
    hash = models.CharField(max_length=64, unique=True)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, null=True, related_name="invitations")
    role = models.CharField(max_length=12, choices=Role.choices, default=Role.MECHANIC)
    person = models.ForeignKey(
        User, on_delete=models.CASCADE, null=True, related_name="+"
    )  # whose password, who joined
    made_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField(default=timezone.now)
    ends_at = models.DateTimeField(null=True)
    used_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.kind} for {self.workshop or 'a new workshop'}"


class Device(models.Model):
    """A browser in which somebody signed in and did not sign out."""

    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="devices")
    session_key = models.CharField(max_length=40, unique=True)
    agent = models.CharField(max_length=200, blank=True)  # as it names itself
    since = models.DateTimeField(default=timezone.now)
    seen_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-seen_at"]

    def __str__(self) -> str:
        return f"{self.person} since {self.since:%Y-%m-%d}"


class SecondFactor(models.Model):
    """An authenticator that somebody is asked for as well. Its secret is sealed; of the words hashes are kept."""

    person = models.OneToOneField(User, on_delete=models.CASCADE, related_name="second")
    sealed = models.CharField(max_length=400)
    last_step = models.PositiveBigIntegerField(default=0)  # the last half minute whose number was said
    words = models.JSONField(default=list)
    wrong = models.PositiveSmallIntegerField(default=0)
    shut_until = models.DateTimeField(null=True)
    since = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"of {self.person}"


class ScopedQuerySet(models.QuerySet):
    """Rows that belong to a workshop, by the path that leads there."""

    def seen_by(self, user: User) -> Self:
        """Return the rows of the user's own workshop only."""
        return self.filter(**{self.model.workshop_path: user.workshop_id})
