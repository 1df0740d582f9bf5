"""Pieces, their revisions and their moments."""
