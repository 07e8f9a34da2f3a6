"""Firn: footwork written down, checked, played and heard back."""

__version__ = "0.1.0"
