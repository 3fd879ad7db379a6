"""Long work of the day: a day's plan."""

from day.plan_views import planned, work_out
from longwork.running import Kind

LONG_WORK = (
    Kind(
        slug="day-plan",
        run=work_out,
        answer=planned,
        seconds=90.0,
        too_long="It took too long. Plan fewer machines at once.",
    ),
)
