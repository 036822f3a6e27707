"""Prices, as templates write them."""
from jinja2 import Environment, Template

env = Environment(extensions=["jinja2.ext.with_", "jinja2.ext.autoescape"])


def price(value):
    return env.from_string("{{ '%.2f'|format(value) }}").render(value=value)
