"""Values over steps: read, strayed from, and worked on."""
