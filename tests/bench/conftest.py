"""Benchmarks: figures with a plain lower bound beside them, printed, never asserted."""
