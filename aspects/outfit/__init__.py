"""Another truck, trailer or set of loads for a haul."""
