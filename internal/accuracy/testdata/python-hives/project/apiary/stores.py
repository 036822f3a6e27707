"""Honey, syrup and what they weigh."""
from hivebook.scales import Scale, to_pounds
from hivebook import feed, moisture


def net(gross: float) -> float:
    return Scale(tare=3.2).net(gross)


def sugar(litres: float) -> float:
    return feed(litres, 2.0)["sugar"]


def ripe(reading: str) -> bool:
    return moisture(reading) < 18.5


def pounds(kilos: float) -> float:
    return to_pounds(kilos)
