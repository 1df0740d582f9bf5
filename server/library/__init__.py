"""What musicians keep for use in any piece."""
