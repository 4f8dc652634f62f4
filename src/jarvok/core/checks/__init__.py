"""The flags: one small function for each, with its reason and its source."""
