def test_road():
    from mill.carts import road

    assert road("mill lane") == "/road/mill%20lane"


def test_query():
    from mill.carts import query

    assert query(sort="fine") == "sort=fine"
