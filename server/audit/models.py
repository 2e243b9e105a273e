"""Who changed what a workshop stands on: vehicles, its ways, its people; who took something away, or took it along."""

from django.conf import settings
from django.db import models
from django.utils import timezone


class Trace(models.Model):
    """One such deed. It stays when what it is about is gone, and says no more of that than a name."""

    class What(models.TextChoices):
        """What was done."""

        VEHICLE_ADDED = "vehicle_added", "Vehicle added"
        VEHICLE_CHANGED = "vehicle_changed", "Vehicle changed"
        VEHICLE_DELETED = "vehicle_deleted", "Vehicle deleted, with all its cases"
        VEHICLE_SOLD = "vehicle_sold", "Vehicle sold: whose it was is forgotten"
        POLICY_CHANGED = "policy_changed", "The workshop’s ways changed"
        PERSON_JOINED = "person_joined", "Joined"
        PERSON_CHANGED = "person_changed", "Role changed, left or came back"
        PERSON_INVITED = "person_invited", "Invited somebody"
        PASSWORD_RESET = "password_reset", "Link for a new password made"
        PERSON_ERASED = "person_erased", "Name erased"
        SECOND_FACTOR = "second_factor", "Second factor"
        PHOTO_DELETED = "photo_deleted", "Photograph deleted"
        CASE_DELETED = "case_deleted", "Case deleted"
        SOUNDS_ENDED = "sounds_ended", "Sounds taken away by the rule of years"
        KEEPING_CHANGED = "keeping_changed", "Rule of years changed"
        TAKEN_ALONG = "taken_along", "Taken along as a bundle"
        TAKEN_IN = "taken_in", "Taken in from a bundle"

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
