"""The yards of the association."""
import datetime

import hivebook
from hivebook import Hive, harvest, inspect_due, season


def yard(names: list[str]) -> list[Hive]:
    return [Hive(n, 10) for n in names]


def weigh_all(hives: list[Hive], kilos: float) -> None:
    for h in hives:
        h.weigh(kilos)


def total(hives: list[Hive]) -> float:
    return sum(h.last_weight() for h in hives)


def expected(hives: list[Hive]) -> float:
    return harvest(hives)


def poor(hives: list[Hive]) -> float:
    return harvest(hives, 1.2)


def due(last: datetime.date, today: datetime.date) -> bool:
    return inspect_due(last, today)


def when(day: datetime.date) -> str:
    return season(day)


def next_drone(start: datetime.date) -> datetime.date:
    return start + datetime.timedelta(days=hivebook.brood_days("drone"))


def fewest(hives: list[Hive]) -> int:
    smallest: str = min(h.frames for h in hives)
    return smallest
