"""One search over hauls, the book and tickets."""
