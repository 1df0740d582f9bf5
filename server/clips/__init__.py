"""Kept clips."""
