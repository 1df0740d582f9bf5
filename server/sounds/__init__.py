"""The musicians' own sounds."""
