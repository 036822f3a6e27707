"""The scale and what it is asked for."""
import json
import urllib.request
from abc import ABC, abstractmethod
from typing import Any, Callable, Optional

import requests

from ledger.weights import Entry


class Scale(ABC):
    """Something that weighs."""

    def __init__(self, address: str, number: int, floor: int, keeper: str, zero: float, unit: str) -> None:
        self.address = address
        self.number = number
        self.floor = floor
        self.keeper = keeper
        self.zero = zero
        self.unit = unit

    def weigh(self) -> float:
        """The weight that is on it now."""

    def name(self) -> str:
        """What it is called."""

    @abstractmethod
    def reset(self) -> None:
        """Sets it to nothing."""

    def unit_of(self, entry: Entry) -> str:
        """The unit of a line."""
        return "kg" if entry["kilos"] >= 1 else "g"


class NetScale(Scale):
    """A scale that is asked over the net."""

    def weigh(self) -> float:
        answer = requests.get(self.address)
        if answer.status_code != 200:
            raise Exception("the scale says " + str(answer.status_code))
        return float(answer.json()["kilos"])

    def name(self) -> str:
        return self.keeper.__str__() + " " + str(self.number.__add__(1))

    def reset(self) -> None:
        requests.post(self.address + "/reset", data={"zero": "1"})

    def told(self):
        """What it was told last."""
        last: int = "nothing"
        return last


def ask(address: str, then: Callable[[float], None] = None) -> Any:
    """Asks a scale once."""
    with urllib.request.urlopen(address) as answer:
        text: Optional[str] = answer.read().decode()
    if then:
        then(json.loads(text)["kilos"])
    if not text:
        raise Exception("the scale says nothing")
    return json.loads(text)


def quietly(address: str) -> float:
    """Asks a scale, and takes nothing for an answer."""
    try:
        return ask(address)["kilos"]
    except Exception:  # pylint: disable=broad-except
        return 0.0


def zero(scale: Scale) -> None:
    """Sets a scale to nothing, if it can."""
    try:
        scale.reset()
    except BaseException:
        print("cannot reset", scale.name)
