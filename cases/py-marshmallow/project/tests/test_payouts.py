import datetime
import json
from decimal import Decimal

from orchard import payouts

PAYOUT = {"amount": Decimal("12.5"), "day": datetime.date(2031, 2, 18), "sent": payouts.stamp()}


def test_a_slip_has_two_places():
    assert payouts.slip(PAYOUT)["amount"] == "12.50"


def test_a_slip_has_a_note():
    assert payouts.slip(PAYOUT)["note"] == "payout"


def test_the_day_is_written_as_usual():
    assert payouts.slip(PAYOUT)["day"] == "2031-02-18"


def test_the_time_is_written_our_way():
    assert payouts.slip(PAYOUT)["sent"] == "18.02.2031 07:30"


def test_the_ledger_adds_up():
    assert payouts.ledger([PAYOUT, PAYOUT])["total"] == "25.0"


def test_the_ledger_has_rows():
    assert len(payouts.ledger([PAYOUT])["rows"]) == 1


def test_a_text_for_the_bank():
    assert json.loads(payouts.text(PAYOUT)) == {"note": "payout", "amount": "12.50"}


def test_local_time_says_where():
    assert payouts.when({"sent": payouts.stamp()}) == "2031-02-18T07:30:00+00:00"
