"""What is weighed."""
from django.db import models


class Grower(models.Model):
    """Who brings the fruit."""

    name = models.CharField(max_length=40)
    page = models.URLField(blank=True)

    def __str__(self):
        return self.name


class Crate(models.Model):
    """One crate as the scale saw it."""

    grower = models.ForeignKey(Grower, models.CASCADE, related_name="crates")
    kilos = models.DecimalField(max_digits=7, decimal_places=1)
    weighed = models.DateTimeField()

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(check=models.Q(kilos__gt=0), name="heavier_than_nothing")]
