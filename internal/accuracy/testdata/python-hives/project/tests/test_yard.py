import datetime

import pytest

hivebook = pytest.importorskip("hivebook")


@pytest.fixture
def hives():
    made = [hivebook.Hive(n, 10) for n in ("Lime", "Heath")]
    for h in made:
        h.weigh(31.5)
    return made


@pytest.fixture
def empty():
    return hivebook.Hive("Empty")


def test_total(hives):
    assert sum(h.last_weight() for h in hives) == 63.0


def test_gain(hives):
    assert hives[0].gain() == 0.0


def test_names(hives):
    assert [h.name for h in hives] == ["Lime", "Heath"]


def test_frames(hives):
    assert hives[0].frames == 10


def test_heavier(hives):
    hives[0].weigh(33.0)
    assert hives[0].gain() == 1.5


def test_harvest(empty):
    assert hivebook.harvest([empty]) == 20.0


def test_default_frames(empty):
    assert empty.frames == 10


def test_nothing_weighed(empty):
    assert empty.last_weight() == 0.0


def test_nothing_gained(empty):
    assert empty.gain() == 0.0


@pytest.mark.parametrize("day,name", [("2031-03-05", "spring"), ("2031-06-10", "summer"), ("2031-12-01", "winter"), ("2031-10-10", "autumn")])
def test_season(day, name):
    assert hivebook.season(datetime.date.fromisoformat(day)) == name


def test_label(empty):
    assert empty.label().endswith("/10")


def test_sign(empty):
    assert "Hive " + empty.label() == "Hive Empty/10"


def test_moisture():
    assert hivebook.moisture("17.8%") == 17.8


def test_wet():
    assert hivebook.moisture("20%") > 18.5


def test_cells():
    assert hivebook.brood_days("queen") == 16


def test_drones():
    assert hivebook.brood_days("drone") == 24


def test_leap():
    assert hivebook.season(datetime.date(2032, 2, 29)) == "spring"
