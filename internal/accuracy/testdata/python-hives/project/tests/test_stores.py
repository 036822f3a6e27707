from apiary import stores


def test_net():
    assert stores.net(10.0) == 6.8


def test_sugar():
    assert stores.sugar(3.0) == 2.0


def test_ripe():
    assert stores.ripe("17%")
