import numpy as np

from meter import levels


def test_levels_are_cleaned():
    assert levels.clean([1, -2, 3]).tolist() == [1, 3]


def test_a_span():
    assert levels.span([1, 5]) == 4


def test_a_product():
    assert levels.product([2, 3]) == 6
