"""What every template may use: form fields, status shapes, measures, kept partials."""

from __future__ import annotations

from collections.abc import Hashable
from functools import lru_cache
from typing import Any

from django import template
from django.apps import apps
from django.contrib.staticfiles import finders
from django.forms import BoundField
from django.template.context import Context
from django.template.loader import get_template
from django.templatetags.static import static
from django.utils.html import escape, format_html, format_html_join
from django.utils.safestring import SafeString, mark_safe

from measures import Quantity, UnitSystem
from measures.writing import in_units_of, write_given
from web.choices import addable
from web.pieces import HELD, marked, name_of

register = template.Library()

SIGNS = ("over", "near", "ok", "unknown")
"""Statuses that have a shape in the sprite of the page's frame."""

OPTION = '<option value="{}">{}</option>'

_MARKS = {
    status: mark_safe(  # noqa: S308  our own words
        f'<svg class="sign sign-{status}" width="14" height="14" aria-hidden="true">'
        f'<use href="#sign-{status}"/></svg>'
    )
    for status in SIGNS
}


@lru_cache(maxsize=8)
def _sheets_of(labels: tuple[str, ...]) -> SafeString:
    """Links to the sheet of every room that has one."""
    sheets = (f"{label}/{label}.css" for label in labels)
    return format_html_join(
        "\n  ",
        '<link rel="stylesheet" href="{}">',
        ((static(sheet),) for sheet in sheets if finders.find(sheet)),
    )


@register.simple_tag
def room_styles() -> SafeString:
    """The styles that rooms bring: ``<room>/static/<label>/<label>.css``, in their order."""
    return _sheets_of(tuple(room.label for room in apps.get_app_configs()))


@lru_cache(maxsize=8)
def _scripts_of(labels: tuple[str, ...]) -> SafeString:
    """The script of every room that has one for all pages."""
    scripts = (f"{label}/everywhere.js" for label in labels)
    return format_html_join(
        "\n  ",
        '<script type="module" src="{}"></script>',
        ((static(script),) for script in scripts if finders.find(script)),
    )


@register.simple_tag
def room_scripts() -> SafeString:
    """The scripts that rooms bring for every page: ``<room>/static/<label>/everywhere.js``."""
    return _scripts_of(tuple(room.label for room in apps.get_app_configs()))


@register.simple_tag
def mark(status: str) -> SafeString:
    """The shape that goes with a status word."""
    return _MARKS[status]


@register.filter
def svg(number: float) -> SafeString:
    """A place or length in a drawing, to a tenth of its unit."""
    return mark_safe(f"{number:.1f}")  # noqa: S308  a number has nothing to escape


def _system(context: Context) -> UnitSystem:
    """The units of whoever looks."""
    user = getattr(context.get("request"), "user", None)
    return getattr(user, "unit_system", UnitSystem.US)


@register.simple_tag(takes_context=True)
def given(context: Context, quantity: Quantity | None) -> str:
    """A quantity in the person's units, with what was typed in brackets where that differs."""
    return "" if quantity is None else write_given(quantity, _system(context))


@register.simple_tag(takes_context=True)
def in_units(context: Context, text: str) -> str:
    """A text whose figures are given in both systems, in the person's."""
    return in_units_of(text, _system(context))


@lru_cache(maxsize=4096)
def _kept(name: str, thing: Hashable) -> tuple[SafeString, str]:
    piece = mark_safe(get_template(name).render({"it": thing}))  # noqa: S308  escaped already
    return piece, name_of(piece)


@register.simple_tag(takes_context=True)
def kept(context: Context, name: str, thing: Hashable) -> SafeString:
    """A partial of one hashable thing, ``it``, rendered once for each and kept; named alone where
    the page that asks has it already (:mod:`web.pieces`)."""
    piece, called = _kept(name, thing)
    has = context.get(HELD)
    return piece if has is None else mark_safe(marked(piece, called, has))  # noqa: S308  as above


@register.inclusion_tag("web/_field.html")
def field(bound: BoundField, wide: bool = False) -> dict[str, Any]:
    """A labelled box with its help, what it understood, what is wrong with it."""
    return {
        "bound": bound,
        "wide": wide,
        "measured": hasattr(bound.field, "kind"),
        "adds": addable(bound.field),
    }


@register.inclusion_tag("web/_choice.html")
def choice(bound: BoundField) -> dict[str, Any]:
    """A list to choose from, quick with hundreds of entries; options may stand in groups."""
    return {
        "bound": bound,
        "choices": getattr(bound.field, "choices", ()),
        "chosen": bound.value(),
        "adds": addable(bound.field),
    }


@register.simple_tag
def options(choices: Any, chosen: Any) -> SafeString:
    """The options of a list, some of them under headings, with the one that is chosen.

    Written in one go and kept: a list of a yard's machines stands on a page several times.
    """
    written = _options(
        tuple(
            (str(key), tuple((str(k), str(w)) for k, w in words))
            if isinstance(words, (list, tuple))
            else (str(key), str(words))
            for key, words in choices
        )
    )
    key = escape("" if chosen is None else str(chosen))
    marked = written.replace(f'value="{key}">', f'value="{key}" selected>', 1)
    return mark_safe(marked)  # noqa: S308  escaped one by one


@lru_cache(maxsize=64)
def _options(choices: tuple[tuple[str, Any], ...]) -> str:
    return "".join(
        format_html('<optgroup label="{}">{}</optgroup>', key, format_html_join("", OPTION, words))
        if isinstance(words, tuple)
        else format_html(OPTION, key, words)
        for key, words in choices
    )


@register.inclusion_tag("web/_ticks.html")
def ticks(bound: BoundField) -> dict[str, Any]:
    """A list of boxes to tick."""
    return {"bound": bound}


@register.inclusion_tag("web/_rows.html")
def rows(formset: Any) -> dict[str, Any]:
    """An inner list: a row of boxes for each entry, and one to add."""
    return {
        "formset": formset,
        "filled": [_row(form, number) for number, form in enumerate(formset.forms, 1)],
        "empty": _row(formset.empty_form, 0),
    }


def _row(form: Any, number: int) -> dict[str, Any]:
    """A row's boxes: first the ones to fill in, then those to tick."""
    boxes = list(form.boxes)
    return {
        "form": form,
        "number": number or "",
        "boxes": [_box(one) for one in boxes if one.widget_type != "checkbox"],
        "ticked": [_box(one) for one in boxes if one.widget_type == "checkbox"],
        "more": [_box(one) for one in form.more_boxes or ()],
    }


def _box(bound: BoundField) -> dict[str, Any]:
    return {
        "bound": bound,
        "take_out": bound.name == "DELETE",
        "tick": bound.widget_type == "checkbox",
        "measured": hasattr(bound.field, "kind"),
    }
