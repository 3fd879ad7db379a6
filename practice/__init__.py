"""The practice yard: situations with a hidden truth, judged by the same core as every haul."""
