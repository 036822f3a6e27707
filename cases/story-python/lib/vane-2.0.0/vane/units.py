"""Units of speed."""


def knots(metres: float) -> float:
    """Metres per second in knots."""
    return round(metres * 1.9438, 1)
