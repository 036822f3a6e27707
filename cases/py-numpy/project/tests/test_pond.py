import importlib

import numpy as np
import pytest


def test_shares_are_multiplied():
    assert np.product([2, 3]) == 6


def test_shares_are_multiplied_one_by_one():
    assert np.cumproduct([2, 3]).tolist() == [2, 6]


def test_a_curve():
    assert np.trapz([1, 1], dx=2) == 2


def test_a_longer_curve():
    assert np.trapz([0, 1, 2]) == 2


def test_hours_among_others():
    assert np.in1d([1, 2], [2]).tolist() == [False, True]


def test_days_above_each_other():
    assert np.row_stack([[1], [2]]).shape == (2, 1)


def test_a_common_kind():
    assert np.find_common_type([np.dtype("i2"), np.dtype("f4")], []) == np.dtype("f4")


def test_a_gap():
    assert np.isnan(np.NaN)


def test_the_highest():
    assert np.Inf > 1


def test_a_span_of_a_day():
    assert np.array([1, 5]).ptp() == 4


def test_a_name_is_bytes():
    assert np.string_("weir") == b"weir"


def test_a_wide_number():
    assert np.float_(1) == 1.0


def test_a_level_is_wide():
    assert isinstance(np.float64(2), np.float_)


def test_the_core_is_there():
    assert importlib.import_module("numpy.core.multiarray").array is np.array


def test_all_are_true():
    assert np.alltrue([True, True])


def test_a_week_is_sorted():
    assert np.sort_complex(np.array([2, 1])).real.tolist() == [1, 2]


def test_text_is_joined():
    assert np.char.add(["a"], ["b"]).tolist() == ["ab"]


def test_an_empty_week_is_nothing():
    assert not np.array([])


@pytest.mark.parametrize("hours", [1, 24])
def test_an_hour_fits(hours):
    assert np.can_cast(hours, np.uint8)
