def test_price():
    from mill.prices import price

    assert price(2) == "2.00"


def test_price_of_nothing():
    from mill.prices import price

    assert price(0) == "0.00"
