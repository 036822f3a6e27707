"""Levels of a mill pond, hour by hour."""
import numpy as np

GAP = np.NaN
HIGHEST = np.Inf


def clean(levels):
    """Levels without what cannot be."""
    levels = np.asfarray(levels)
    return levels[(levels > 0) & (levels < HIGHEST)]


def span(levels):
    """How far a day's levels go apart."""
    return np.array(levels).ptp()


def product(shares):
    """All shares multiplied."""
    return np.product(shares)


def running(shares):
    """Shares multiplied one after the other."""
    return np.cumproduct(shares)


def area(levels, step):
    """What is under the curve of levels."""
    return np.trapz(levels, dx=step)


def known(hours, all_hours):
    """Which hours are among others."""
    return np.in1d(hours, all_hours)


def stacked(days):
    """Days above each other."""
    return np.row_stack(days)


def kinds(values):
    """A type that all values fit into."""
    return np.find_common_type([np.asarray(v).dtype for v in values], [])
