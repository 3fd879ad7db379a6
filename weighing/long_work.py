"""Long work of the weighings: large tables of tickets."""

from longwork.running import Kind
from weighing.table_views import tickets_tried, try_tickets

LONG_WORK = (
    Kind(
        slug="tickets",
        run=try_tickets,
        answer=tickets_tried,
        too_long="The table is too large to be read at once. Split it into several.",
    ),
)
