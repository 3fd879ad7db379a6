"""Long work of files: large yard files."""

from exchange.views import take_in_apart, taken_in_apart
from longwork.running import Kind

LONG_WORK = (
    Kind(
        slug="yard-file",
        run=take_in_apart,
        answer=taken_in_apart,
        seconds=300.0,
        too_long="The file is too large to be taken in at once. Take it in without its photos.",
    ),
)
