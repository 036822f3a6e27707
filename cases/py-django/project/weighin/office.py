"""The settings of the office, which has the old attic too."""
from weighin.settings import *  # noqa: F401,F403
from weighin.settings import INSTALLED_APPS

INSTALLED_APPS = INSTALLED_APPS + ["attic"]
CSRF_TRUSTED_ORIGINS = ["office.example", ".scale.example"]
