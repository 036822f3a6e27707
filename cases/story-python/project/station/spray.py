"""When the growers may spray."""

from vane import Reading, mean


def may_spray(reading: Reading) -> bool:
    """Whether the wind is low enough to spray."""
    return reading.kmh() < 14


def drift(reading: Reading, width: float) -> float:
    """How far the spray drifts in metres from a row of some width."""
    return round(reading.kmh() * width / 10, 1)


def calm_enough(readings: list[Reading]) -> bool:
    """Whether the hour's mean allows to go out at all."""
    return mean(readings) < 3


def advice(reading: Reading) -> str:
    """A line for the board."""
    if may_spray(reading):
        return f"spray, {reading.kmh()} km/h"
    return f"wait, {reading.kmh()} km/h"
