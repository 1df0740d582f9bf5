"""Takes: bars by dice numbers, side by side."""
