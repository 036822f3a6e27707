"""Tokens in the letters to customers."""
from itsdangerous import JSONWebSignatureSerializer, TimedJSONWebSignatureSerializer, URLSafeSerializer


def letter(customer):
    return TimedJSONWebSignatureSerializer("stone", expires_in=60).dumps({"customer": customer})


def plain(customer):
    return URLSafeSerializer("stone").dumps({"customer": customer})
