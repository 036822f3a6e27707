from orchard import moon


def test_the_new_moon():
    assert moon.phase(0) == 0


def test_the_full_moon():
    assert moon.phase(15) == 0.5
