"""How to sign in to the demo yard."""

LOGIN, PASSWORD = "demo", "fernbeck-demo"
"""Printed by the demo, and good for the demo yard alone."""
