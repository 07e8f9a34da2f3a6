"""Left and right."""

ACROSS = {"left": "right", "right": "left"}
"""The other side of each."""
