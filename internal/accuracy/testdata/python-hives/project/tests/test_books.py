from apiary import books
from hivebook import Hive


def test_requeen():
    assert books.requeen(Hive("Lime"), 2031) == "white"


def test_table():
    assert books.table([Hive("Lime")]) == "Lime;10"


def test_minutes():
    assert books.minutes("x", ["a"]) == ["a", "closed"]
