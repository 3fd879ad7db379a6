"""Tags and filters of every page."""
