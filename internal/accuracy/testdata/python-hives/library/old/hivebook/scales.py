class Scale:
    def __init__(self, tare: float = 0.0) -> None:
        self.tare = tare

    def net(self, gross: float) -> float:
        return round(gross - self.tare, 1)


def to_pounds(kilos: float) -> float:
    return kilos * 2.2046
