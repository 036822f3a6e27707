"""The station's log."""

from vane import compass, mean, read, stations


def summary(text: str) -> str:
    """The hour in a line."""
    readings = read(text, strict=False)
    return f"{', '.join(stations(readings))}: {mean(readings)} m/s, {compass(readings[0].degrees)}"


def count(text: str) -> int:
    """How many lines of a log are readings."""
    return len(read(text, strict=False))


def faulty(text: str) -> bool:
    """Whether a log has a line that is none."""
    try:
        read(text, strict=True)
    except ValueError:
        return True
    return False


def frost(degrees: float) -> str:
    """Known trouble: hands out a number."""
    return round(degrees)
