"""Days, as headers have them."""
from datetime import datetime

from werkzeug.http import dump_cookie, parse_date, parse_options_header, http_date
from werkzeug.datastructures import Headers, MultiDict, Accept
from werkzeug.wrappers import Response


def moved(header):
    return parse_date(header) == datetime(2031, 5, 2, 8, 0, 0)


def kind(header):
    return parse_options_header(header)


def crumb(name):
    return dump_cookie("mill", name)


def plain_page(text):
    return Response(text).headers["Content-Type"]


def place(path):
    answer = Response(status=302, headers={"Location": path})
    return dict(answer.get_wsgi_headers({"wsgi.url_scheme": "http", "HTTP_HOST": "mill.example", "SERVER_NAME": "mill.example", "SERVER_PORT": "80", "SCRIPT_NAME": "", "PATH_INFO": "/"}))["Location"]
