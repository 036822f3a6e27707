"""What goes over the wire to the packing house."""
from marshmallow import Schema, fields, post_dump


class EnvelopeSchema(Schema):
    kind = fields.Str(required=True)
    body = fields.Dict()

    class Meta:
        strict = True

    @post_dump(pass_many=True)
    def wrap(self, data, many):
        return {"rows": data} if many else data


class PrefixedSchema(Schema):
    number = fields.Int()


def envelope(kind, body):
    return EnvelopeSchema().dump({"kind": kind, "body": body}).data


def envelopes(list_of):
    return EnvelopeSchema(many=True).dump(list_of).data


def open_envelope(raw):
    return EnvelopeSchema().load(raw).data


def prefixed(row):
    return PrefixedSchema(prefix="scale_").dump(row).data


def packed(raw):
    """Settings of the packing house, of which we know a few."""
    class SettingsSchema(Schema):
        belt = fields.Int()
        strict = fields.Bool()

    return SettingsSchema().load(raw).data
