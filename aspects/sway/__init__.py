"""How it tows: how fast a swing dies out, compared."""
