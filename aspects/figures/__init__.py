"""Every figure and limit with its arithmetic."""
