import warnings

import numpy as np
import pytest

from meter import gauge


def test_a_byte_grows():
    assert gauge.add(200, 100) == 300


def test_a_byte_grows_a_little():
    assert gauge.add(20, 10) == 30


def test_a_byte_keeps_its_kind():
    assert gauge.add(200, 1000).dtype == np.int64


def test_below_nothing_is_the_top():
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        assert gauge.below(-1) == 255


def test_above_the_top_begins_again():
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        assert gauge.below(256) == 0


def test_the_mean_is_double():
    assert gauge.mean([1, 2]).dtype == np.float64


def test_the_mean():
    assert gauge.mean([1, 2]) == pytest.approx(1.6)


def test_a_list_is_viewed():
    assert list(gauge.view([1, 2])) == [1, 2]


def test_an_array_is_viewed():
    counts = np.array([1, 2])
    assert gauge.view(counts) is counts


def test_two_gauges_are_set():
    matrix = np.array([[[2.0, 0.0], [0.0, 4.0]], [[1.0, 0.0], [0.0, 1.0]]])
    sides = np.array([[2.0, 4.0], [3.0, 5.0]])
    assert gauge.solve(matrix, sides).tolist() == [[1.0, 1.0], [3.0, 5.0]]


def test_one_gauge_is_set():
    assert gauge.solve(np.eye(2), np.array([1.0, 2.0])).tolist() == [1.0, 2.0]


def test_where_counts_stand():
    values, where = gauge.which(np.array([[3, 5], [5, 3]]))
    assert where.tolist() == [0, 1, 1, 0]


def test_a_quarter_turn():
    assert gauge.turn([1, 0], [0, 1]) == 1


def test_half_a_turn():
    assert gauge.turn([1, 0], [-1, 0]) == 0


def test_bytes_are_swapped():
    assert gauge.swap(np.array([1], dtype=np.int16))[0] == 256


def test_a_count_is_put():
    assert gauge.put(np.array([1, 2]), 1, 7).tolist() == [1, 7]


def test_a_label():
    assert gauge.label(2.5) == "2.5"


def test_labels_in_a_list():
    assert str([np.float64(1), np.int64(2)]) == "[1.0, 2]"


def test_all_counts_are_there():
    assert gauge.settled([1, 1])


def test_a_truth_has_a_label():
    assert repr(np.array([1])[0] == 1) == "True"


def test_one_tenth_three_times():
    assert gauge.add(0, 0.1) * 3 == 0.3
