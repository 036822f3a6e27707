import pytest
from marshmallow import ValidationError

from orchard import wire


def test_an_envelope():
    assert wire.envelope("crate", {"number": 1}) == {"kind": "crate", "body": {"number": 1}}


def test_envelopes_have_rows():
    assert wire.envelopes([{"kind": "crate", "body": {}}]) == {"rows": [{"kind": "crate", "body": {}}]}


def test_an_envelope_without_a_kind_is_refused():
    with pytest.raises(ValidationError):
        wire.open_envelope({"body": {}})


def test_an_envelope_is_opened():
    assert wire.open_envelope({"kind": "crate", "body": {"number": 1}})["body"] == {"number": 1}


def test_columns_have_a_prefix():
    assert wire.prefixed({"number": 3}) == {"scale_number": 3}


def test_settings_that_we_know():
    assert wire.packed({"belt": 3, "strict": "yes", "lamp": "on"})["belt"] == 3


def test_settings_may_say_no():
    assert wire.packed({"strict": "false"}) == {"strict": False}
