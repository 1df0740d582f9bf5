"""The demo: a musician, three pieces and a few clips."""
