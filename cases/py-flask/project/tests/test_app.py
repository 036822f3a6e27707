import pytest

pytest.importorskip("flask")


@pytest.fixture
def client():
    from mill.app import create

    return create().test_client()


def test_flour_has_a_price(client):
    assert client.get("/flour").get_json()["rye"] == "2.50"


def test_flour_is_ascii(client):
    assert b"m\\u00e9teil" in client.get("/flour").data


def test_flour_has_a_name(client):
    assert client.get("/flour/rye?sort=fine").get_json() == {"name": "rye", "sort": "fine"}


def test_lost_flour_is_told(client):
    assert client.get("/bran").get_json()["error"].startswith("The requested URL was not found")
