"""Photos of plates, stickers and tickets."""

from __future__ import annotations

from django.conf import settings
from django.contrib.contenttypes.fields import GenericForeignKey
from django.contrib.contenttypes.models import ContentType
from django.db import models

from yards.models import YardOwned


class Photo(YardOwned):
    """A picture of a thing of the book, encoded anew and without metadata."""

    content_type = models.ForeignKey(ContentType, on_delete=models.CASCADE)
    object_id = models.PositiveBigIntegerField()
    thing = GenericForeignKey()
    file = models.FileField(upload_to="photos", max_length=200)
    caption = models.CharField(max_length=120, blank=True)
    added_at = models.DateTimeField(auto_now_add=True)
    added_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )

    class Meta:
        ordering = ["added_at", "pk"]
        indexes = [models.Index(fields=["content_type", "object_id"], name="photo_of_thing")]

    def __str__(self) -> str:
        return self.caption or f"photo {self.pk}"
