"""Who changed what a workshop stands on: vehicles, its ways, its people; who took something away, or took it along."""

from django.conf import settings
from django.db import models
from django.utils import timezone
from hematite.language import later


class Trace(models.Model):
    """One such deed. It stays when what it is about is gone, and says no more of that than a name."""

    class What(models.TextChoices):
        """What was done."""

        VEHICLE_ADDED = "vehicle_added", later("Vehicle added")
        VEHICLE_CHANGED = "vehicle_changed", later("Vehicle changed")
        VEHICLE_DELETED = "vehicle_deleted", later("Vehicle deleted, with all its cases")
        VEHICLE_SOLD = "vehicle_sold", later("Vehicle sold: whose it was is forgotten")
        POLICY_CHANGED = "policy_changed", later("The workshop’s ways changed")
        PERSON_JOINED = "person_joined", later("Joined")
        PERSON_CHANGED = "person_changed", later("Role changed, left or came back")
        PERSON_INVITED = "person_invited", later("Invited somebody")
        PASSWORD_RESET = "password_reset", later("Link for a new password made")
        PERSON_ERASED = "person_erased", later("Name erased")
        SECOND_FACTOR = "second_factor", later("Second factor")
        PHOTO_DELETED = "photo_deleted", later("Photograph deleted")
        CASE_DELETED = "case_deleted", later("Case deleted")
        SOUNDS_ENDED = "sounds_ended", later("Sounds taken away by the rule of years")
        KEEPING_CHANGED = "keeping_changed", later("Rule of years changed")
        TAKEN_ALONG = "taken_along", later("Taken along as a bundle")
        TAKEN_IN = "taken_in", later("Taken in from a bundle")

    workshop = models.ForeignKey("people.Workshop", on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    at = models.DateTimeField(default=timezone.now)
    what = models.CharField(max_length=20, choices=What.choices)
    about = models.CharField(max_length=160, blank=True)
    details = models.JSONField(default=list, blank=True)  # which fields, how many rows: words, never what stood there

    class Meta:
        indexes = [models.Index(fields=["workshop", "-at"])]
        ordering = ["-at", "-id"]

    def __str__(self) -> str:
        return f"{self.what} {self.about}"
