"""A workshop's policy: one row a workshop, as the core reads it."""

from django.conf import settings
from django.db import models
from people.models import ScopedQuerySet, Workshop


class WorkshopPolicy(models.Model):
    """Schools, play limits and prices. A verdict freezes what stood when it was accepted."""

    workshop_path = "workshop"

    workshop = models.OneToOneField(Workshop, on_delete=models.CASCADE, related_name="policy")
    data = models.JSONField(default=dict)  # what the core's `read_policy` takes
    changed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    changed_at = models.DateTimeField(auto_now=True)
    revision = models.PositiveIntegerField(default=0)
    change = models.UUIDField(null=True, blank=True)  # the number of the last change, which may be sent twice

    objects = ScopedQuerySet.as_manager()

    def __str__(self) -> str:
        return f"policy of {self.workshop}"
