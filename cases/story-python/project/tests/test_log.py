import pytest

from station import log

HOUR = "mill 22 2\nweir 350 4\nsluice closed\nmill 30 3"


def test_count():
    assert log.count(HOUR) == 3


def test_faulty():
    assert log.faulty(HOUR)


def test_sound():
    assert not log.faulty("mill 22 2")


def test_summary():
    assert log.summary(HOUR) == "mill, weir: 3.0 m/s, NNE"


@pytest.mark.skip(reason="the sluice has no vane yet")
def test_sluice():
    assert log.count("sluice 0 1") == 1
