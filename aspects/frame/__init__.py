"""The trailer's frame as a beam."""
