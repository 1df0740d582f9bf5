"""The running order: patterns one after the other, and how one gives way to another."""
