from mill import dates


def test_moved():
    assert dates.moved("Fri, 02 May 2031 08:00:00 GMT")


def test_kind():
    assert dates.kind("text/html; charset=utf-8") == ("text/html", {"charset": "utf-8"})


def test_kind_of_nothing():
    assert dates.kind("") == ("", {})


def test_crumb():
    assert dates.crumb("rye") == "mill=rye; Path=/"


def test_crumb_with_a_comma():
    assert dates.crumb("rye,oat") == 'mill="rye\\054oat"; Path=/'


def test_place_is_whole():
    assert dates.place("/road") == "http://mill.example/road"


def test_page_is_plain():
    assert dates.plain_page("rye") == "text/html"
