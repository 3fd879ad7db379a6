"""The book: trucks, hitches, trailers and machines, and what their plates say."""

from django.apps import AppConfig


class BookConfig(AppConfig):
    name = "book"
