"""Pages that can be reached by following links, one of each kind."""

from __future__ import annotations

from collections import deque
from html.parser import HTMLParser
from typing import NamedTuple
from urllib.parse import urldefrag, urljoin

from django.test import Client
from django.urls import Resolver404, resolve


class Kind(NamedTuple):
    """What makes two addresses pages of one kind: their view, and the words in the address."""

    view: str
    words: tuple[str, ...]


class _Links(HTMLParser):
    """Addresses that a page's links lead to; what is downloaded is none."""

    def __init__(self) -> None:
        super().__init__()
        self.found: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        """Note a link's address."""
        given = dict(attrs)
        if tag == "a" and given.get("href") and "download" not in given:
            self.found.append(given["href"] or "")


def kind_of(path: str) -> Kind | None:
    """The kind of a page; ``None`` of an address that is none of ours."""
    try:
        match = resolve(path)
    except Resolver404:
        return None
    words = tuple(value for value in match.kwargs.values() if isinstance(value, str))
    return Kind(match.view_name, words)


def reached(client: Client, start: str = "/") -> dict[Kind, str]:
    """The first page of each kind that links lead to from ``start``, by its kind: what is met
    nearest to the start comes first."""
    found: dict[Kind, str] = {}
    waiting = deque([start])
    while waiting:
        address = waiting.popleft()
        path = address.partition("?")[0]
        kind = kind_of(path)
        if kind is None or kind in found:
            continue
        answer = client.get(address, follow=True)
        if not answer.get("Content-Type", "").startswith("text/html"):
            continue
        found[kind] = address
        links = _Links()
        links.feed(answer.content.decode())
        for link in links.found:
            there = urldefrag(urljoin(address, link)).url
            if there.startswith("/"):
                waiting.append(there)
    return found
