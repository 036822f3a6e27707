"""Payouts as the bank takes them."""
import datetime
from decimal import Decimal

from marshmallow import Schema, fields


class PayoutSchema(Schema):
    amount = fields.Decimal(places=2, as_string=True)
    day = fields.Date()
    sent = fields.DateTime()
    note = fields.Str(default="payout")

    class Meta:
        dateformat = "%d.%m.%Y %H:%M"


class LocalPayoutSchema(Schema):
    sent = fields.LocalDateTime() if hasattr(fields, "LocalDateTime") else fields.DateTime()


class LedgerSchema(Schema):
    rows = fields.Nested(PayoutSchema, many=True)
    total = fields.Decimal(as_string=True)


def slip(payout):
    return PayoutSchema().dump(payout).data


def ledger(payouts):
    total = sum((p["amount"] for p in payouts), Decimal(0))
    return LedgerSchema().dump({"rows": payouts, "total": total}).data


def text(payout):
    return PayoutSchema(only=("note", "amount")).dumps(payout).data


def when(payout):
    return LocalPayoutSchema().dump(payout).data["sent"]


def stamp():
    return datetime.datetime(2031, 2, 18, 7, 30)
