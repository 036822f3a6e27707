"""Reads wind vanes."""

import dataclasses

__version__ = "1.6.0"


@dataclasses.dataclass(frozen=True)
class Reading:
    """A reading of a vane: degrees, and metres per second."""

    degrees: float
    metres: float
    station: str = ""

    def kmh(self) -> float:
        """The speed in kilometres per hour."""
        return round(self.metres * 3.6, 1)


def read(text: str, strict: bool = False) -> list[Reading]:
    """The readings of some lines "station degrees metres"; strict refuses what is no reading."""
    readings = []
    for line in text.splitlines():
        parts = line.split()
        if len(parts) != 3:
            if strict:
                raise ValueError(f"no reading: {line!r}")
            continue
        readings.append(Reading(float(parts[1]), float(parts[2]), parts[0]))
    return readings


WINDS = ["N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW"]


def compass(degrees: float) -> str:
    """The wind's name, one of sixteen."""
    return WINDS[round(degrees / 22.5) % 16]


def mean(readings: list[Reading]) -> float:
    """The mean speed in metres per second."""
    return round(sum(r.metres for r in readings) / len(readings), 2)


def stations(readings: list[Reading]) -> list[str]:
    """The stations that spoke, by name."""
    return sorted({r.station for r in readings})


def knots(metres: float) -> float:
    """Metres per second in knots."""
    return round(metres * 1.9438, 1)
