"""Django settings. Everything that differs between places comes from the environment."""

import os
from pathlib import Path

from csp.constants import NONCE, NONE, SELF

ROOT = Path(__file__).resolve().parents[2]
VAR = Path(os.environ.get("INSERTUM_VAR", ROOT / "var"))
VAR.mkdir(parents=True, exist_ok=True)  # SQLite makes its file, not the folder it lies in
WEB = ROOT / "web" / "dist"

DEBUG = os.environ.get("INSERTUM_DEBUG") == "1"
#: The demo makes its own key on first start and keeps it beside its database.
SECRET_KEY = os.environ.get("INSERTUM_SECRET_KEY", "demo-only-key-" + "x" * 40)
ALLOWED_HOSTS = os.environ.get("INSERTUM_HOSTS", "127.0.0.1,localhost").split(",")

INSTALLED_APPS = [
    "whitenoise.runserver_nostatic",
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "insertum.shop",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
    "insertum.api.body.whole_characters",
]
ROOT_URLCONF = "insertum.site.urls"
WSGI_APPLICATION = "insertum.site.wsgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "DIRS": [WEB / "static"], "OPTIONS": {}}]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR / "insertum.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
        },
        "TEST": {"NAME": VAR / "test.sqlite3"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_VERBOSE = False

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF],
        "style-src": [SELF, NONCE],
        "img-src": [SELF, "data:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "object-src": [NONE],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
    }
}

#: The supplier's feed; the demo runs a stand-in there.
SUPPLIER_URL = os.environ.get("INSERTUM_SUPPLIER", "http://127.0.0.1:8765/offers")

STATIC_URL = "/static/"
# The web build is served as it lies; nothing is collected.
STATIC_ROOT = WEB / "static"
WHITENOISE_AUTOREFRESH = DEBUG
DATA_UPLOAD_MAX_MEMORY_SIZE = 12 * 1024 * 1024
FILE_UPLOAD_MAX_MEMORY_SIZE = 12 * 1024 * 1024

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
