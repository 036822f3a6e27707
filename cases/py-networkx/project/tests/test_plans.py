from valley import plans


def test_title():
    assert plans.title("Mill") == "Mill"


def test_stops_are_numbered():
    assert plans.numbered([1, 2])


def test_districts(triangle):
    assert len(plans.districts(triangle, 2)) == 2
