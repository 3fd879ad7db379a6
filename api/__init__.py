"""What a yard's own programs read and write."""
