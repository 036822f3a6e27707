"""When the scale is open."""
import datetime

from django.utils import timezone


def opening(day):
    """When the scale opens, as a moment."""
    return timezone.make_aware(datetime.datetime(day.year, day.month, day.day, 6), is_dst=False)


def stamp(moment):
    """A moment as the scale prints it."""
    return moment.astimezone(timezone.utc).strftime("%H:%M")
