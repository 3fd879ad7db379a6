"""On and off: what happens while a machine climbs, and whether the truck holds."""
