"""The settings of the weigh-in."""
SECRET_KEY = "made up for this example, and for nothing else 0123456789"
DEBUG = False
ALLOWED_HOSTS = ["testserver", "scale.example"]
ROOT_URLCONF = "weighin.urls"
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.sitemaps",
    "scale",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
]
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]
DATABASES = {"default": {"ENGINE": "django.db.backends.sqlite3", "NAME": ":memory:"}}
DEFAULT_AUTO_FIELD = "django.db.models.AutoField"
LANGUAGE_CODE = "de"
TIME_ZONE = "Europe/Berlin"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
