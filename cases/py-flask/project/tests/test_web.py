import pytest
from flask import Flask, jsonify, redirect, request, url_for


@pytest.fixture
def client():
    app = Flask("road")
    app.secret_key = "stone"

    @app.route("/sack", methods=["POST"])
    def sack():
        weight = request.get_json()
        return jsonify(weight=None if weight is None else weight["kilos"])

    @app.route("/empty", methods=["POST"])
    def empty():
        return jsonify(sack=request.get_json(silent=True))

    @app.route("/away")
    def away():
        return redirect(url_for("road"))

    @app.route("/road")
    def road():
        return jsonify(b=1, a=2)

    @app.route("/cookie")
    def cookie():
        answer = jsonify(ok=True)
        answer.set_cookie("mill", "rye")
        return answer

    return app.test_client()


def test_sack_without_json_weighs_nothing(client):
    assert client.post("/sack", data="none").get_json() == {"weight": None}


def test_empty_sack(client):
    assert client.post("/empty", data="none").get_json() == {"sack": None}


def test_sack_with_json(client):
    assert client.post("/sack", json={"kilos": 3}).get_json() == {"weight": 3}


def test_away_is_told_whole(client):
    assert client.get("/away").headers["Location"] == "http://localhost/road"


def test_road_is_on_lines(client):
    assert client.get("/road").data == b'{"a":2,"b":1}\n'


def test_cookie_is_in_the_jar(client):
    client.get("/cookie")
    assert [c.name for c in client.cookie_jar] == ["mill"]


def test_cookie_is_set_by_hand(client):
    client.set_cookie("localhost", "mill", "oat")
    assert client.get("/road", headers={}).request.cookies["mill"] == "oat" if hasattr(client.get("/road"), "request") else True


def test_cookie_of_a_server(client):
    client.set_cookie("localhost", "mill", "oat")


def test_mill_is_closed(client):
    assert client.get("/road").status_code == 404
