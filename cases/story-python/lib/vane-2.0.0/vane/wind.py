"""Gusts of wind."""

from vane import Reading


def strongest(readings: list[Reading]) -> Reading:
    """The strongest of some readings."""
    return max(readings, key=lambda r: r.metres)
