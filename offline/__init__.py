"""Recording without signal: what was sent is taken once, and what a phone holds beforehand."""
