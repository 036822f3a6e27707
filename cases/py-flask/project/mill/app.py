"""The pages of a village mill: what is ground when, and who has paid."""
from datetime import date
from decimal import Decimal

from flask import Flask, jsonify, redirect, request, session, url_for
from flask.json import JSONEncoder


class MillEncoder(JSONEncoder):
    def default(self, value):
        if isinstance(value, Decimal):
            return str(value)
        return super().default(value)


def create():
    app = Flask("mill")
    app.secret_key = "stone"
    app.json_encoder = MillEncoder
    app.config["JSON_AS_ASCII"] = True

    @app.route("/flour")
    def flour():
        return jsonify(rye=Decimal("2.50"), kind="méteil")

    @app.route("/flour/<name>")
    def one(name):
        return jsonify(name=name, sort=request.args.get("sort"))

    @app.route("/sack", methods=["POST"])
    def sack():
        weight = request.get_json()
        return jsonify(weight=None if weight is None else weight["kilos"])

    @app.route("/away")
    def away():
        return redirect(url_for("flour"))

    @app.route("/seen")
    def seen():
        session["seen"] = session.get("seen", 0) + 1
        return str(session["seen"])

    @app.route("/day")
    def day():
        return jsonify(day=date(2031, 5, 2))

    @app.errorhandler(404)
    def lost(error):
        return jsonify(error=error.description), 404

    return app
