class Queen:
    COLOURS = ["white", "yellow", "red", "green", "blue"]

    def __init__(self, year: int, marked: bool = False) -> None:
        self.year = year
        self.marked = marked

    @property
    def colour(self) -> str:
        return self.COLOURS[(self.year - 1) % 5]

    def age(self, year: int) -> int:
        return year - self.year
