"""How the outfit rides, and spring bars."""
