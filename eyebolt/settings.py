"""Settings, every one of them by environment variable, with safe defaults.

=====================  ==============================================  ==================
variable               meaning                                         default
=====================  ==============================================  ==================
EYEBOLT_DATA           folder of database and secret key               ``var``
DATABASE_URL           PostgreSQL instead of the folder's own file     none
EYEBOLT_SECRET_KEY     signing key                                     made once, kept
EYEBOLT_HOSTS          host names served, separated by commas          loopback only
EYEBOLT_ORIGINS        trusted origins behind a proxy, with scheme     none
EYEBOLT_HTTPS          1: cookies and redirects for HTTPS only         1
EYEBOLT_HSTS_SUBDOMAINS
                       1: HTTPS for every name below ours      0
EYEBOLT_HSTS_PRELOAD   1: browsers may list us as HTTPS only   0
EYEBOLT_DEBUG          1: error pages with internals, never served on  0
EYEBOLT_SIGN_UP        1: anybody may make a yard of their own         1
EYEBOLT_PROXIES        proxies in front that are to be trusted         0
EYEBOLT_TIME_ZONE      time zone of the yard's clock                   UTC
EYEBOLT_GAUGE_HOST     where gauges connect to                         127.0.0.1
EYEBOLT_GAUGE_PORT     the port for it; 0 reads no gauge live          8765
EYEBOLT_AT_ONCE        quick requests worked on at once per process    1
EYEBOLT_GAUGE_STREAMS  pages watching per process; more ask in turns   20
=====================  ==============================================  ==================
"""

import os
from pathlib import Path

import dj_database_url
from csp.constants import NONE, SELF

from eyebolt.data_folder import DATABASE, FILE_MODE, FOLDER_MODE, prepare
from eyebolt.secret_key import secret_key

BASE_DIR = Path(__file__).resolve().parent.parent
DATA_DIR = Path(os.environ.get("EYEBOLT_DATA", BASE_DIR / "var"))


def _flag(name: str, default: str) -> bool:
    return os.environ.get(name, default) == "1"


def _list(name: str, default: str = "") -> list[str]:
    return [part.strip() for part in os.environ.get(name, default).split(",") if part.strip()]


prepare(DATA_DIR)
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
    "csp",
    "reversion",
    "import_export",
    "web",
    "yards",
    "longwork",
    "offline",
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
    "aspects.card",
    "aspects.law",
    "aspects.sway",
    "aspects.figures",
    "weighing",
    "gauge",
    "road",
    "day",
    "fleet",
    "practice",
    "api",
    "finding",
    "exchange",
    "upkeep",
    "demo",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "web.receiving.heads_without_bodies",
    "web.middleware.few_at_once",
    "django.middleware.gzip.GZipMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "api.tokens.signed_in_by_token",
    "web.receiving.strangers_send_little",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "csp.middleware.CSPMiddleware",
    "web.middleware.with_policies",
    "web.budget.WithinBudget",
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

_SQLITE = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA_DIR / DATABASE,
        "CONN_MAX_AGE": None,
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 10,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;",
        },
    }
}
# yards that outgrow one file; everything else stays as it is
DATABASES = (
    {"default": dj_database_url.config(conn_max_age=600, conn_health_checks=True)}
    if os.environ.get("DATABASE_URL")
    else _SQLITE
)
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "yards.User"
AUTHENTICATION_BACKENDS = ["yards.backend.YardBackend"]
SIGN_UP = _flag("EYEBOLT_SIGN_UP", "1")

# proxies in front that write down where a request came from; none: the connection says it
PROXIES = int(os.environ.get("EYEBOLT_PROXIES", "0"))
CSRF_FAILURE_VIEW = "web.views.csrf_failure"
LOGIN_URL = "sign_in"
LOGIN_REDIRECT_URL = "home"
LOGOUT_REDIRECT_URL = "sign_in"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}", "OPTIONS": options}
    for name, options in (
        ("UserAttributeSimilarityValidator", {"user_attributes": ("username", "first_name")}),
        ("MinimumLengthValidator", {"min_length": 10}),
        ("CommonPasswordValidator", {}),
        ("NumericPasswordValidator", {}),
    )
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
FILE_UPLOAD_PERMISSIONS = FILE_MODE
FILE_UPLOAD_DIRECTORY_PERMISSIONS = FOLDER_MODE

SECURE_SSL_REDIRECT = HTTPS
# whoever watches the server asks it directly, not through the proxy
SECURE_REDIRECT_EXEMPT = [r"^healthz$"]
SESSION_COOKIE_SECURE = HTTPS
CSRF_COOKIE_SECURE = HTTPS
SECURE_HSTS_SECONDS = 31_536_000 if HTTPS else 0
# either binds other names of the domain, and cannot be taken back soon: for its owner to say
SECURE_HSTS_INCLUDE_SUBDOMAINS = HTTPS and _flag("EYEBOLT_HSTS_SUBDOMAINS", "0")
SECURE_HSTS_PRELOAD = HTTPS and _flag("EYEBOLT_HSTS_PRELOAD", "0")
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021"]
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if HTTPS else None
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
PASSWORD_RESET_TIMEOUT = 60 * 60 * 24 * 3
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30

# gauges send their lines to a service beside the web server, pages watch them through it
GAUGE_HOST = os.environ.get("EYEBOLT_GAUGE_HOST", "127.0.0.1")
GAUGE_PORT = int(os.environ.get("EYEBOLT_GAUGE_PORT", "8765"))
AT_ONCE = int(os.environ.get("EYEBOLT_AT_ONCE", "1"))
GAUGE_STREAMS = int(os.environ.get("EYEBOLT_GAUGE_STREAMS", "20"))

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "img-src": [SELF, "data:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "manifest-src": [SELF],
        "worker-src": [SELF],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
        "base-uri": [NONE],
    }
}

# large files are worked through in a process of their own, beside the pages
LONG_WORK_APART = True

DATA_UPLOAD_MAX_MEMORY_SIZE = 2_000_000
FILE_UPLOAD_MAX_MEMORY_SIZE = 2_000_000

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "loggers": {"django": {"handlers": ["console"], "level": "WARNING"}},
}
