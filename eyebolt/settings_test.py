"""Settings of the tests: the production ones, over plain HTTP, with quick passwords."""

import hypothesis

from eyebolt.settings import *  # noqa: F403
from eyebolt.settings import STORAGES as _STORAGES

HTTPS = False
SECURE_SSL_REDIRECT = False
SESSION_COOKIE_SECURE = False
CSRF_COOKIE_SECURE = False
SECURE_HSTS_SECONDS = 0
SECURE_PROXY_SSL_HEADER = None
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "testserver"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
STORAGES = {
    **_STORAGES,
    "default": {"BACKEND": "django.core.files.storage.InMemoryStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
# a process of its own would not see the test's database
LONG_WORK_APART = False
WHITENOISE_AUTOREFRESH = True
WHITENOISE_USE_FINDERS = True
# how long an example takes says how busy the machine is, and nothing of the example
hypothesis.settings.register_profile(
    "busy", deadline=None, suppress_health_check=[hypothesis.HealthCheck.too_slow]
)
hypothesis.settings.load_profile("busy")


class _Undefined(str):
    """What stands for a name that a template's context lacks: an error, not an empty text."""

    def __contains__(self, part: object) -> bool:
        return part == "%s"

    def __mod__(self, name: object) -> str:
        raise LookupError(f"the template's context has no {name}")


TEMPLATES = [
    {
        **TEMPLATES[0],  # noqa: F405
        "OPTIONS": {
            **TEMPLATES[0]["OPTIONS"],  # type: ignore[dict-item]  # noqa: F405
            "string_if_invalid": _Undefined("%s"),
        },
    }
]
