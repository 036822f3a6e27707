"""The report of a day."""
from contextlib import contextmanager
from typing import Dict, Iterator, List

import yaml  # type: ignore

from ledger.weights import Entry, by_grower


def lines(entries: List[Entry], width: int = None) -> List[str]:
    """The lines of the report."""
    printed = []
    for grower, kilos in by_grower(entries).items():
        printed.append(f"{grower:<20}{kilos:8.1f}"[:width])
    return printed


@contextmanager
def opened(path: str) -> Iterator[List[str]]:
    """A report that is written when it is left."""
    report: List[str] = []
    file = open(path, "w", encoding="utf-8")
    yield report
    file.write("\n".join(report))
    file.close()


def settings(path: str) -> Dict[str, str]:
    """What the report shall look like."""
    with open(path, encoding="utf-8") as file:
        return yaml.safe_load(file)


def head(entries: List[Entry]) -> str:
    """The first line."""
    if len(entries) > 0:
        first = entries[0]["grower"]
    else:
        del entries
    return first if entries else "nobody"


def check(entries: List[Entry]) -> bool:
    """Whether there is something to report."""
    if check:
        return bool(entries)
    return False


def printed(entries: List[Entry], path: str, title: str, date: str, place: str, keeper: str) -> int:
    """Writes the report and tells how long it is."""
    with opened(path) as report:
        report.append(title + date + place + keeper)
        report.extend(lines(entries, "80"))
    return len(report)
