"""Records of bee hives."""
import datetime
from .queens import Queen

__version__ = "3.0.0"


class Hive:
    def __init__(self, name: str, *, frames: int = 11) -> None:
        self.name = name
        self.frames = frames
        self.weights: list[float] = []
        self.queen: "Queen | None" = None

    def record_weight(self, kilos: float, on: "datetime.date | None" = None) -> None:
        self.weights.append(kilos)

    def last_weight(self) -> "float | None":
        return self.weights[-1] if self.weights else None

    def gain(self) -> float:
        if not self.weights:
            raise ValueError("hive %s was never weighed" % self.name)
        return self.weights[-1] - self.weights[0]

    @property
    def label(self) -> str:
        return "%s/%d" % (self.name, self.frames)


def harvest(hives: list[Hive], *, per_frame: float = 1.8) -> float:
    return sum(h.frames * per_frame for h in hives)


def season(day: datetime.date) -> str:
    return ["winter", "spring", "summer", "autumn"][(day.month * 31 + day.day - 50) // 91 % 4]


def inspection_due(last: datetime.date, today: datetime.date, days: int = 7) -> bool:
    return (today - last).days >= days


def moisture(reading: str) -> float:
    return float(reading.rstrip("%")) / 100


def development_days(kind: str) -> int:
    return {"queen": 16, "worker": 21, "drone": 24}[kind]


def feed(syrup: float, ratio: float = 1.0) -> "tuple[float, float]":
    return syrup * ratio / (1 + ratio), syrup / (1 + ratio)


def export(hives: list[Hive], *, separator: str = ",", header: bool = True) -> str:
    lines = ["name" + separator + "frames"] if header else []
    return "\n".join(lines + [h.name + separator + str(h.frames) for h in hives])


class Journal:
    def __init__(self, path: str) -> None:
        self.path = path
        self.entries: list[str] = []

    def write(self, text: str) -> None:
        self.entries.append(text)

    def close(self) -> None:
        self.entries.append("closed")
