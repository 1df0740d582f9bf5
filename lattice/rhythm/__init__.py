"""Which steps are hits: sources and the turns applied to them."""
