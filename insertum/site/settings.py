"""Django settings. Everything that differs between places comes from the environment."""

import os

from csp.constants import NONCE, NONE, SELF

from .place import VAR, WEB, listed, made, secret_key

made(VAR)  # SQLite makes its file, not the folder it lies in

DEBUG = os.environ.get("INSERTUM_DEBUG") == "1"
#: The made-up workshop with its stand-ins and its login; a workshop of one's own has none of it.
DEMO = os.environ.get("INSERTUM_DEMO") == "1"
#: What stands in for the world outside; loaded in the demo, and for its examples.
STAND_INS = "insertum.demo.stand_ins"
SECRET_KEY = secret_key()
ALLOWED_HOSTS = listed("INSERTUM_HOSTS") or ["127.0.0.1", "localhost"]

#: Behind TLS: the address people type, as https://bench.example. Everything that follows from it is set here.
ADDRESSES = listed("INSERTUM_ADDRESS")
if ADDRESSES:
    CSRF_TRUSTED_ORIGINS = ADDRESSES
    ALLOWED_HOSTS += [a.partition("://")[2].partition(":")[0] for a in ADDRESSES]
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    SECURE_SSL_REDIRECT = True
    SECURE_REDIRECT_EXEMPT = [r"^healthz$"]
    SECURE_HSTS_SECONDS = 31_536_000
    SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = os.environ.get("INSERTUM_HSTS_ALL") == "1"
    # Only a proxy on this machine speaks to the server; it says what it was asked over.
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")

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
    "insertum.site.log.requests",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "insertum.site.sessions.Sessions",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
    "insertum.api.door.in_words",
    "insertum.api.body.sound",
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
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON; "
            "PRAGMA secure_delete=ON;",  # what was erased is overwritten
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
AXES_LOCKOUT_CALLABLE = "insertum.api.door.locked_out"

AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in (
        "UserAttributeSimilarityValidator", "MinimumLengthValidator", "CommonPasswordValidator", "NumericPasswordValidator",
    )
]  # fmt: skip

# A session ends after hours of rest: what is done prolongs it (api/roles.py). Looking writes nothing and prolongs
# nothing, since a page left open looks by itself.
SESSION_ENGINE = "django.contrib.sessions.backends.db"
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
SUPPLIER_URL = os.environ.get("INSERTUM_SUPPLIER", "http://127.0.0.1:8765/offers" if DEMO else "")

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
    "loggers": {"insertum.requests": {"level": "INFO"}},
}
