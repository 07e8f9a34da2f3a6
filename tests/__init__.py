"""Tests; those that try random cases try the same ones each time, however slow the machine is just then."""

from hypothesis import settings

settings.register_profile("firn", deadline=None, derandomize=True, max_examples=50)
settings.load_profile("firn")
