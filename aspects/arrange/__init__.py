"""The best order, facing and place of the loads."""
