"""Long work of the book: large tables."""

from book.table_views import table_tried, try_table
from longwork.running import Kind

LONG_WORK = (
    Kind(
        slug="table",
        run=try_table,
        answer=table_tried,
        too_long="The table is too large to be read at once. Split it into several.",
    ),
)
