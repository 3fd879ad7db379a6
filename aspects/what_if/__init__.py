"""Two to four ways of one haul side by side."""
