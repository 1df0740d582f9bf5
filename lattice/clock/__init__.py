"""When steps happen: exact quarters inside, whole ticks at the door."""
