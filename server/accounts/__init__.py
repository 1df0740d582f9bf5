"""Who is who, and what belongs to whom."""
