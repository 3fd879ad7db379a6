"""The planner."""
