"""Reads wind vanes."""

import dataclasses
import warnings

__version__ = "2.0.0"


@dataclasses.dataclass(frozen=True)
class Reading:
    """A reading of a vane: degrees, and metres per second."""

    degrees: float
    metres: float
    station: str = ""

    @property
    def speed(self) -> float:
        """The speed in kilometres per hour."""
        return round(self.metres * 3.6, 1)


def read(text: str, *, on_error: str = "raise") -> list[Reading]:
    """The readings of some lines "station degrees metres"; on_error is "raise" or "skip"."""
    readings = []
    for line in text.splitlines():
        parts = line.split()
        if len(parts) != 3:
            if on_error == "raise":
                raise ValueError(f"no reading: {line!r}")
            continue
        readings.append(Reading(float(parts[1]), float(parts[2]), parts[0]))
    return readings


WINDS = ["N", "NE", "E", "SE", "S", "SW", "W", "NW"]


def compass(degrees: float) -> str:
    """The wind's name, one of eight."""
    return WINDS[round(degrees / 45) % 8]


def mean(readings: list[Reading]) -> float:
    """The mean speed in metres per second of those that are no calm."""
    blowing = [r.metres for r in readings if r.metres >= 0.5]
    return round(sum(blowing) / len(blowing), 2) if blowing else 0.0


def stations(readings: list[Reading]) -> list[str]:
    """The stations that spoke, in no order."""
    return list({r.station for r in readings})


def knots(metres: float) -> float:
    """Metres per second in knots."""
    warnings.warn("vane.knots is deprecated and goes in 3.0; use vane.units.knots", DeprecationWarning, stacklevel=2)
    return round(metres * 1.9438, 1)
