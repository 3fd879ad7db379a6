"""Settings, every one of them by environment variable, with safe defaults.

=====================  ==============================================  ==================
variable               meaning                                         default
=====================  ==============================================  ==================
EYEBOLT_DATA           folder of database and secret key               ``var``
EYEBOLT_SECRET_KEY     signing key                                     made once, kept
EYEBOLT_HOSTS          host names served, separated by commas          loopback only
EYEBOLT_ORIGINS        trusted origins behind a proxy, with scheme     none
EYEBOLT_HTTPS          1: cookies and redirects for HTTPS only         1
EYEBOLT_DEBUG          1: error pages with internals, never served on  0
EYEBOLT_SIGN_UP        1: anybody may make a yard of their own         1
EYEBOLT_PROXIES        proxies in front that are to be trusted         0
EYEBOLT_TIME_ZONE      time zone of the yard's clock                   UTC
EYEBOLT_GAUGE_HOST     where gauges connect to                         127.0.0.1
EYEBOLT_GAUGE_PORT     the port for it; 0 reads no gauge live          8765
EYEBOLT_AT_ONCE        requests worked on at once per process          2
EYEBOLT_GAUGE_STREAMS  pages watching per process; more ask in turns   20
=====================  ==============================================  ==================
"""

import os
from datetime import timedelta
from pathlib import Path

from csp.constants import NONE, SELF

from eyebolt.secret_key import secret_key

BASE_DIR = Path(__file__).resolve().parent.parent
DATA_DIR = Path(os.environ.get("EYEBOLT_DATA", BASE_DIR / "var"))


def _flag(name: str, default: str) -> bool:
    return os.environ.get(name, default) == "1"


def _list(name: str, default: str = "") -> list[str]:
    return [part.strip() for part in os.environ.get(name, default).split(",") if part.strip()]


SECRET_KEY = os.environ.get("EYEBOLT_SECRET_KEY") or secret_key(DATA_DIR)
DEBUG = _flag("EYEBOLT_DEBUG", "0")
ALLOWED_HOSTS = _list("EYEBOLT_HOSTS", "127.0.0.1,localhost")
CSRF_TRUSTED_ORIGINS = _list("EYEBOLT_ORIGINS")
HTTPS = _flag("EYEBOLT_HTTPS", "1")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "axes",
    "csp",
    "reversion",
    "import_export",
    "web",
    "yards",
    "planfile",
    "book",
    "hauls",
    "walk",
    "planning",
    "matching",
    "aspects",
    "aspects.place",
    "aspects.outfit",
    "aspects.arrange",
    "aspects.level",
    "aspects.frame",
    "aspects.on_off",
    "aspects.tied_down",
    "aspects.what_if",
    "aspects.figures",
    "weighing",
    "gauge",
    "exchange",
    "demo",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "web.middleware.few_at_once",
    "django.middleware.gzip.GZipMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "csp.middleware.CSPMiddleware",
    "axes.middleware.AxesMiddleware",
]

ROOT_URLCONF = "eyebolt.urls"
WSGI_APPLICATION = "eyebolt.wsgi.application"

TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.messages.context_processors.messages",
                "yards.context.yard",
            ],
        },
    },
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA_DIR / "eyebolt.sqlite3",
        "CONN_MAX_AGE": None,
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 10,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL;",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "yards.User"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "yards.backend.YardBackend"]
SIGN_UP = _flag("EYEBOLT_SIGN_UP", "1")

# guessing passwords is slowed: after eight wrong ones for a name from one address, that
# pair waits; a person elsewhere is not locked out by somebody else's guessing
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = timedelta(minutes=5)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_LOCKOUT_CALLABLE = "yards.views.slow_down"
AXES_RESET_ON_SUCCESS = True
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_VERBOSE = False
AXES_ENABLE_ADMIN = False
_PROXIES = int(os.environ.get("EYEBOLT_PROXIES", "0"))
AXES_IPWARE_PROXY_COUNT = _PROXIES or None
# a header that nobody trustworthy wrote says nothing about where a request came from
AXES_IPWARE_META_PRECEDENCE_ORDER = ["HTTP_X_FORWARDED_FOR"] if _PROXIES else ["REMOTE_ADDR"]
CSRF_FAILURE_VIEW = "web.views.csrf_failure"
LOGIN_URL = "sign_in"
LOGIN_REDIRECT_URL = "home"
LOGOUT_REDIRECT_URL = "sign_in"
AUTH_PASSWORD_VALIDATORS = [
    {
        "NAME": "django.contrib.auth.password_validation.MinimumLengthValidator",
        "OPTIONS": {"min_length": 10},
    },
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

LANGUAGE_CODE = "en-us"
USE_I18N = False
USE_TZ = True
TIME_ZONE = os.environ.get("EYEBOLT_TIME_ZONE", "UTC")

STATIC_URL = "/static/"
STATIC_ROOT = BASE_DIR / "staticfiles"
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "web.storage.StaticFiles"},
}
WHITENOISE_MAX_AGE = 3600

# photos of plates: served by a view that asks whose yard they are, never by address alone
MEDIA_ROOT = DATA_DIR / "media"

SECURE_SSL_REDIRECT = HTTPS
SESSION_COOKIE_SECURE = HTTPS
CSRF_COOKIE_SECURE = HTTPS
SECURE_HSTS_SECONDS = 31_536_000 if HTTPS else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = HTTPS
SECURE_HSTS_PRELOAD = HTTPS
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if HTTPS else None
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
PASSWORD_RESET_TIMEOUT = 60 * 60 * 24 * 3
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30

# gauges send their lines to a service beside the web server, pages watch them through it
GAUGE_HOST = os.environ.get("EYEBOLT_GAUGE_HOST", "127.0.0.1")
GAUGE_PORT = int(os.environ.get("EYEBOLT_GAUGE_PORT", "8765"))
AT_ONCE = int(os.environ.get("EYEBOLT_AT_ONCE", "2"))
GAUGE_STREAMS = int(os.environ.get("EYEBOLT_GAUGE_STREAMS", "20"))

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "img-src": [SELF, "data:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
        "base-uri": [NONE],
    }
}

DATA_UPLOAD_MAX_MEMORY_SIZE = 2_000_000
FILE_UPLOAD_MAX_MEMORY_SIZE = 2_000_000

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "loggers": {"django": {"handlers": ["console"], "level": "WARNING"}},
}
