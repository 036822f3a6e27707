"""What is made ready before the first customer asks."""
from flask import Flask

app = Flask("mill")
stones = []


@app.before_first_request
def dress():
    stones.append("dressed")


@app.route("/stones")
def show():
    return ",".join(stones)
