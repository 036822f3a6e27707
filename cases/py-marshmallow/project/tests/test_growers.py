from orchard import growers

RAW = {"growerName": "Ilse Baum", "memberSince": 2019, "address": {"street": "Mill Lane 3", "town": "Elmstead"}}


def test_a_grower_is_read():
    data, errors = growers.read(RAW)
    assert data["name"] == "Ilse Baum" and not errors


def test_the_year_is_read():
    assert growers.read(RAW)[0]["since"] == 2019


def test_a_grower_without_a_name():
    assert "growerName" in growers.read({"memberSince": 2019})[1]


def test_nobody_joins_in_the_future():
    assert growers.read({**RAW, "memberSince": 2040})[1]["memberSince"] == ["Nobody joined after 2031."]


def test_a_letter_needs_a_town():
    assert growers.read({**RAW, "address": {"street": "Mill Lane 3"}})[1]["address"] == ["A letter needs a town."]


def test_a_grower_is_written():
    assert growers.write({"name": "Ilse Baum", "since": 2019}) == {"growerName": "Ilse Baum", "memberSince": 2019}


def test_a_short_grower():
    assert growers.short({"name": "Ilse", "town": "Elmstead"}) == {"name": "Ilse", "town": "ELMSTEAD"}


def test_a_short_grower_without_a_town():
    assert growers.short({"name": "Ilse"}) == {"name": "Ilse"}


def test_complaints_name_their_fields():
    assert growers.complain({"memberSince": 2019}) == ["growerName"]


def test_the_label():
    assert growers.GrowerSchema(only=("label",)).dump({"name": "Ilse", "since": 2019})[0] == {"label": "Ilse (2019)"}
