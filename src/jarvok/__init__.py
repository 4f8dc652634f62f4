"""Jarvok: planning and running strength, power and speed work."""
