"""Simulated devices as programs of their own, speaking the open stream format."""
