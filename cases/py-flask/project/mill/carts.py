"""The carts on the road."""
from werkzeug.urls import url_encode, url_quote, url_unquote
from werkzeug.http import parse_date


def road(name):
    return "/road/" + url_quote(name)


def back(path):
    return url_unquote(path)


def query(**fields):
    return url_encode(fields)


def when(header):
    return parse_date(header)
