def test_stones_are_dressed():
    from mill.setup import app

    assert app.test_client().get("/stones").data == b"dressed"


def test_stones_are_dressed_once():
    from mill.setup import app

    client = app.test_client()
    client.get("/stones")
    assert client.get("/stones").data == b"dressed"
