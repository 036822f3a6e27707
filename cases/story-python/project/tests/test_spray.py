import pytest

from station import spray
from vane import Reading


@pytest.mark.parametrize("metres, may", [(1, True), (3.8, True), (3.9, False)])
def test_may_spray(metres, may):
    assert spray.may_spray(Reading(0, metres)) is may


def test_drift():
    assert spray.drift(Reading(0, 5), 4) == 7.2


def test_advice():
    assert spray.advice(Reading(0, 2)) == "spray, 7.2 km/h"


def test_advice_to_wait():
    assert spray.advice(Reading(0, 10)) == "wait, 36.0 km/h"


def test_calms_count():
    assert spray.calm_enough([Reading(0, 0), Reading(0, 0.2), Reading(0, 6)])
