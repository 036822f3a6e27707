"""What the office still keeps from before."""
from django.db import models


class Box(models.Model):
    """A box with papers."""

    label = models.CharField(max_length=20)
    opened = models.NullBooleanField()
    lost = models.NullBooleanField()
