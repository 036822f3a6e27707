import pytest
from hivebook import Hive, Queen, export, feed


@pytest.mark.parametrize("year,colour", [(2031, "white"), (2032, "yellow"), (2035, "blue")])
def test_colour(year, colour):
    assert Queen(year).colour == colour


def test_upper():
    assert Queen(2033).colour.upper() == "RED"


def test_export():
    assert export([Hive("Lime", frames=10)]) == "name;frames\nLime;10"


def test_export_bare():
    assert export([Hive("Lime", frames=9)], header=False) == "Lime;9"


def test_export_sep():
    assert export([Hive("Lime", frames=9)], sep="\t", header=False) == "Lime\t9"


def test_feed():
    assert feed(2.0)["water"] == 1.0


def test_feed_thick():
    assert feed(3.0, 2.0)["sugar"] == 2.0


def test_age():
    assert Queen(2030).age(2032) == 3
