"""How to sign in to the demo yard."""

LOGIN, PASSWORD = "demo", "fernbeck-demo"
"""The owner; printed by the demo, and good for the demo yard alone."""

PLANNER, DRIVER = "demo-planner", "demo-driver"
"""A planner and a driver of the same yard, with the same password."""
