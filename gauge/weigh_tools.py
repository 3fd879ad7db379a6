"""Gauges, from the page of ways to weigh."""

from weighing.tools import Tool

TOOLS = (Tool(title="Gauges", address="gauges"),)
