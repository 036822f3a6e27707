"""Crates as the scale at the gate sends them."""
from marshmallow import Schema, fields, post_load, pre_load, validate


class Crate:
    def __init__(self, number, fruit, kilos, grower=None):
        self.number, self.fruit, self.kilos, self.grower = number, fruit, kilos, grower


class CrateSchema(Schema):
    number = fields.Int(required=True)
    fruit = fields.Str(validate=validate.OneOf(["pears", "apples", "plums"]))
    kilos = fields.Float(validate=validate.Range(min=1, max=40))
    grower = fields.Str(missing="unknown")

    @pre_load
    def trim(self, data):
        return {key: value.strip() if isinstance(value, str) else value for key, value in data.items()}

    @post_load
    def make(self, data):
        return Crate(**data)


class PlainCrateSchema(Schema):
    number = fields.Int(required=True)
    kilos = fields.Float(validate=validate.Range(min=1, max=40))


def weigh(raw):
    """The crate in a message, and what is wrong with it."""
    result = CrateSchema().load(raw)
    return result.data, result.errors


def faults(raw):
    return PlainCrateSchema().load(raw).errors


def heaviest(raws):
    return max(PlainCrateSchema(many=True).load(raws).data, key=lambda c: c["kilos"])


def print_out(crate):
    return PlainCrateSchema().dump(crate).data
