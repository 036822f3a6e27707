"""The gauge at the weir, which counts in bytes."""
import numpy as np


def add(count, more):
    """A byte and a number."""
    return np.uint8(count) + more


def below(number):
    """A number below nothing, as the gauge sees it."""
    return np.uint8(number)


def mean(counts):
    """The mean of counts, in single precision."""
    return np.float32(sum(counts) / len(counts)) + 0.1


def view(counts):
    """Counts, without a copy."""
    return np.array(counts, copy=False)


def solve(matrix, sides):
    """What two gauges have to be set to."""
    return np.linalg.solve(matrix, sides)


def which(counts):
    """The different counts, and where each stands."""
    values, where = np.unique(counts, return_inverse=True)
    return values, where


def turn(a, b):
    """The turn from one direction into another, in the plane."""
    return np.cross(a, b)


def swap(counts):
    """Counts in the other order of bytes."""
    return counts.newbyteorder()


def put(counts, at, value):
    """Sets one count."""
    counts.itemset(at, value)
    return counts


def label(value):
    """A value as it is printed on the gauge."""
    return repr(np.float64(value))


def settled(counts):
    """Whether all counts are there."""
    return np.alltrue(counts)
