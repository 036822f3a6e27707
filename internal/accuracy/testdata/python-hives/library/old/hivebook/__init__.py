"""Records of bee hives."""
import datetime
import warnings
from .scales import Scale, to_pounds
from .queens import Queen

__version__ = "2.9.1"


class Hive:
    def __init__(self, name: str, frames: int = 10) -> None:
        self.name = name
        self.frames = frames
        self.weights: list[float] = []
        self.queen: "Queen | None" = None

    def weigh(self, kilos: float) -> None:
        self.weights.append(kilos)

    def last_weight(self) -> float:
        return self.weights[-1] if self.weights else 0.0

    def gain(self) -> float:
        return self.weights[-1] - self.weights[0] if self.weights else 0.0

    def set_queen(self, queen: Queen) -> None:
        self.queen = queen

    def label(self) -> str:
        return "%s/%d" % (self.name, self.frames)


def harvest(hives: list[Hive], per_frame: float = 2.0) -> float:
    return sum(h.frames * per_frame for h in hives)


def season(day: datetime.date) -> str:
    return ["winter", "spring", "summer", "autumn"][day.month % 12 // 3]


def inspect_due(last: datetime.date, today: datetime.date, days: int = 7) -> bool:
    return (today - last).days >= days


def moisture(reading: str) -> float:
    return float(reading.rstrip("%"))


def brood_days(kind: str) -> int:
    warnings.warn("brood_days() is deprecated, use development_days()", DeprecationWarning, stacklevel=2)
    return development_days(kind)


def development_days(kind: str) -> int:
    return {"queen": 16, "worker": 21, "drone": 24}[kind]


def feed(syrup: float, ratio: float = 1.0) -> dict[str, float]:
    return {"sugar": syrup * ratio / (1 + ratio), "water": syrup / (1 + ratio)}


def export(hives: list[Hive], sep: str = ";", header: bool = True) -> str:
    lines = ["name;frames"] if header else []
    return "\n".join(lines + [h.name + sep + str(h.frames) for h in hives])


class Journal:
    def __init__(self, path: str) -> None:
        self.path = path
        self.entries: list[str] = []

    def __enter__(self) -> "Journal":
        return self

    def __exit__(self, *args: object) -> None:
        self.entries.append("closed")

    def write(self, text: str) -> int:
        self.entries.append(text)
        return len(self.entries)
