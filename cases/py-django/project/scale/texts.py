"""The words of the weigh-in."""
from django.utils.translation import ugettext_lazy as _

HEAVY = _("heavy")
LIGHT = _("light")


def judge(kilos):
    """What the scale says of a weight."""
    return HEAVY if kilos > 20 else LIGHT
