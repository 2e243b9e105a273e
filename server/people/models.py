"""Workshops and their people. Every stored row belongs to a workshop."""

from typing import Self

from django.contrib.auth.models import AbstractUser
from django.db import models


class Workshop(models.Model):
    """A workshop; the line that no row crosses."""

    name = models.CharField(max_length=120, unique=True)

    def __str__(self) -> str:
        return self.name


class User(AbstractUser):
    """Someone who signs in. `preferences` holds units and light, as the web app keeps them."""

    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="people")
    preferences = models.JSONField(default=dict, blank=True)

    @property
    def shown_name(self) -> str:
        """Return the name that others see: in full where it is known."""
        return self.get_full_name() or self.username


class ScopedQuerySet(models.QuerySet):
    """Rows that belong to a workshop, by the path that leads there."""

    def seen_by(self, user: User) -> Self:
        """Return the rows of the user's own workshop only."""
        return self.filter(**{self.model.workshop_path: user.workshop_id})
