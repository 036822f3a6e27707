"""Addresses that stand in letters."""
from django.utils.encoding import force_text
from django.utils.http import urlquote


def letter(grower, number):
    """The address of a crate in a letter."""
    return "https://scale.example/crates/" + urlquote(force_text(number)) + "/?for=" + urlquote(grower)
