"""A thing's scale tickets, on its page in the book."""

ASIDES = ("weighing/_book_tickets.html",)
