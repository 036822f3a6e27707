"""Warns of gales."""

from vane import Reading, knots
from vane.gusts import strongest


def warning(readings: list[Reading]) -> str:
    """What the mast shows: nothing, a ball or a cone."""
    worst = strongest(readings)
    if worst.kmh() > 75:
        return "cone"
    return "ball" if worst.kmh() > 50 else ""


def at_sea(reading: Reading) -> str:
    """The speed as the boats want it."""
    return f"{knots(reading.metres)} kn"
