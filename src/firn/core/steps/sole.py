"""The outline of a sole, toe up, its inner edge to the right as of a left foot: for whoever draws one."""

WIDTH, HEIGHT = 22.0, 42.0

START = (13.5, 0.2)

CURVES = (
    (18.6, 0.0, 21.6, 4.6, 21.3, 10.6),
    (21.0, 15.6, 17.0, 18.6, 16.2, 23.4),
    (15.7, 27.0, 18.0, 30.8, 17.8, 35.2),
    (17.6, 39.8, 14.8, 42.0, 11.4, 42.0),
    (7.6, 42.0, 5.0, 39.4, 5.0, 35.2),
    (5.0, 31.0, 5.6, 27.6, 4.2, 23.6),
    (2.6, 19.2, 0.4, 17.2, 0.7, 12.2),
    (1.1, 6.2, 7.4, 0.6, 13.5, 0.2),
)
"""Cubic curves from `START` on: two control points and an end each."""

STRUCK = {"tip": (0.0, 0.24), "ball": (0.0, 0.55), "heel": (0.62, 1.0), "whole": (0.0, 1.0), "sole": (0.0, 1.0)}
"""Where what strikes begins and ends, as shares of the height from the toe down."""
