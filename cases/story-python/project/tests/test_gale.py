from station import gale
from vane import Reading


def test_cone():
    assert gale.warning([Reading(0, 5), Reading(0, 22)]) == "cone"


def test_ball():
    assert gale.warning([Reading(0, 15)]) == "ball"


def test_nothing():
    assert gale.warning([Reading(0, 5)]) == ""


def test_at_sea():
    assert gale.at_sea(Reading(0, 10)) == "19.4 kn"
