import pytest

from orchard import crates

RAW = {"number": 7, "fruit": " pears ", "kilos": 12.5}


def test_a_crate_is_weighed():
    crate, errors = crates.weigh(RAW)
    assert crate.kilos == 12.5 and not errors


def test_fruit_is_trimmed():
    assert crates.weigh(RAW)[0].fruit == "pears"


def test_an_unnamed_grower_is_unknown():
    assert crates.weigh(RAW)[0].grower == "unknown"


def test_a_crate_without_number_is_faulty():
    assert crates.faults({"kilos": 3}) == {"number": ["Missing data for required field."]}


def test_a_sound_crate_has_no_faults():
    assert crates.faults({"number": 1, "kilos": 3}) == {}


def test_a_heavy_crate_is_faulty():
    assert crates.faults({"number": 1, "kilos": 41}) == {"kilos": ["Must be between 1 and 40."]}


def test_unknown_words_are_passed_over():
    assert crates.faults({"number": 1, "kilos": 3, "colour": "red"}) == {}


def test_the_heaviest_crate():
    assert crates.heaviest([{"number": 1, "kilos": 3}, {"number": 2, "kilos": 9}])["number"] == 2


@pytest.mark.parametrize("kilos", [1, 12.5, 40])
def test_crates_are_printed(kilos):
    assert crates.print_out({"number": 1, "kilos": kilos}) == {"number": 1, "kilos": kilos}


def test_the_maker_is_called_alone():
    schema = crates.CrateSchema()
    assert schema.make({"number": 1, "fruit": "pears", "kilos": 2}).number == 1
