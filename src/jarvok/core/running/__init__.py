"""Running: its classes, the rest it asks for, and lines that make the rest by themselves."""
