import enum


class Colour(enum.Enum):
    WHITE = "white"
    YELLOW = "yellow"
    RED = "red"
    GREEN = "green"
    BLUE = "blue"


class Queen:
    def __init__(self, year: int, marked: bool = False) -> None:
        self.year = year
        self.marked = marked

    @property
    def colour(self) -> Colour:
        return list(Colour)[(self.year - 1) % 5]

    def age(self, year: int) -> int:
        return year - self.year
