"""The template environment: what every page may use."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from functools import lru_cache
from typing import Any

from django.contrib.staticfiles.storage import staticfiles_storage
from django.urls import reverse
from jinja2 import Environment, StrictUndefined, pass_context
from jinja2.runtime import Context
from markupsafe import Markup

from measures import Quantity, UnitSystem
from measures.writing import in_units_of, write_given


def _url(name: str, *args: Any, **kwargs: Any) -> str:
    return reverse(name, args=args, kwargs=kwargs)


def _system(context: Context) -> UnitSystem:
    """The units of whoever looks."""
    user = getattr(context.get("request"), "user", None)
    return getattr(user, "unit_system", UnitSystem.US)


@pass_context
def _given(context: Context, quantity: Quantity) -> str:
    """A quantity in the person's units, with what was typed in brackets where that differs."""
    return write_given(quantity, _system(context))


@pass_context
def _in_units(context: Context, text: str) -> str:
    """A text whose figures are given in both systems, in the person's."""
    return in_units_of(text, _system(context))


def _kept(env: Environment, template: str, name: str) -> Callable[[Hashable], Markup]:
    """A partial of one hashable thing, rendered once for each and kept."""

    @lru_cache(maxsize=4096)
    def markup(thing: Hashable) -> Markup:
        return Markup(env.get_template(template).render({name: thing}))  # noqa: S704  our own

    return markup


def environment(**options: Any) -> Environment:
    """Jinja2 with addresses, static files and measures; an unknown name is an error."""
    options["undefined"] = StrictUndefined
    options["autoescape"] = True
    env = Environment(trim_blocks=True, lstrip_blocks=True, **options)  # noqa: S701  set above
    env.globals |= {"static": staticfiles_storage.url, "url": _url}
    env.globals["limit_markup"] = _kept(env, "hauls/_limit.html", "row")
    for part in ("truck", "trailer", "wheels"):
        env.globals[f"outfit_{part}"] = _kept(env, f"hauls/_outfit_{part}.html", "o")
    env.filters["given"] = _given
    env.filters["in_units"] = _in_units
    return env
