"""Growers of the co-operative, and how their letters are addressed."""
from marshmallow import Schema, ValidationError, fields, validates, validates_schema


class AddressSchema(Schema):
    street = fields.Str(required=True)
    town = fields.Str()


class GrowerSchema(Schema):
    name = fields.Str(required=True, load_from="growerName", dump_to="growerName")
    since = fields.Int(load_from="memberSince", dump_to="memberSince")
    address = fields.Nested(AddressSchema)
    label = fields.FormattedString("{name} ({since})") if hasattr(fields, "FormattedString") else fields.Str()

    @validates("since")
    def not_in_the_future(self, value):
        if value > 2031:
            raise ValidationError("Nobody joined after 2031.")

    @validates_schema
    def has_a_town(self, data):
        if data.get("address") and not data["address"].get("town"):
            raise ValidationError("A letter needs a town.", ["address"])


class ShortGrowerSchema(Schema):
    name = fields.Str()
    town = fields.Function(lambda grower: grower["town"].upper())


def read(raw):
    data, errors = GrowerSchema().load(raw)
    return data, errors


def write(grower):
    return GrowerSchema(only=("name", "since")).dump(grower).data


def short(grower):
    return ShortGrowerSchema().dump(grower).data


def complain(raw):
    """The fields that an error is about."""
    try:
        GrowerSchema(strict=True).load(raw)
    except ValidationError as err:
        return sorted(err.field_names)
    return []
