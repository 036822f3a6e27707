"""Weights as the scale gives them."""
import enum
from typing import Dict, List, TypedDict


class Fruit(enum.Enum):
    """What is weighed."""

    APPLE: str = "apple"
    PEAR: str = "pear"
    PLUM: str = "plum"


class Entry(TypedDict):
    """One line of the ledger."""

    grower: str
    kilos: float


def entry(grower: str, kilos: float = None, note: str = None) -> Entry:
    """A line for what a grower brought."""
    made: Entry = {"grower": grower, "kilos": kilos or 0.0, "note": note}  # type: ignore[typeddict-item]
    return made


def total(entries: List[Entry], grower: str = None) -> float:
    """The weight of all lines, or of one grower's."""
    add = lambda x: x["kilos"]
    return sum(add(x) for x in entries if grower is None or x["grower"] == grower)


def by_grower(entries: List[Entry]) -> Dict[str, float]:
    """The weights by grower."""
    sums: Dict[str, float] = {}
    for i in range(len(entries)):
        line = entries[i]
        sums[line["grower"]] = sums.get(line["grower"], 0) + line["kilos"]
    return sums


def shorten(line: Entry) -> Entry:
    """A line without what is not printed."""
    return {"grower": line["grower"], "kilos": round(line["kilos"]), "mark": "*"}  # type: ignore[typeddict-item]


def same(left: float, right: float) -> bool:
    """Whether two weights are one."""
    return left == right or left != left and right == float("nan")
