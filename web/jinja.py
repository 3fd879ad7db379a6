"""The template environment: what every page may use."""

from __future__ import annotations

from typing import Any

from django.contrib.staticfiles.storage import staticfiles_storage
from django.urls import reverse
from jinja2 import Environment, StrictUndefined

from measures.writing import write_entered


def _url(name: str, *args: Any, **kwargs: Any) -> str:
    return reverse(name, args=args, kwargs=kwargs)


def environment(**options: Any) -> Environment:
    """Jinja2 with addresses, static files and measures; an unknown name is an error."""
    options["undefined"] = StrictUndefined
    options["autoescape"] = True
    env = Environment(trim_blocks=True, lstrip_blocks=True, **options)  # noqa: S701  set above
    env.globals |= {"static": staticfiles_storage.url, "url": _url}
    env.filters["entered"] = write_entered
    return env
