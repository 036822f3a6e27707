"""The association's books."""
from hivebook import Hive, Journal, Queen, export, brood_days


def requeen(hive: Hive, year: int) -> str:
    queen = Queen(year)
    hive.set_queen(queen)
    return queen.colour


def table(hives: list[Hive]) -> str:
    return export(hives, sep=";", header=False)


def plain(hives: list[Hive]) -> str:
    return export(hives)


def minutes(path: str, lines: list[str]) -> list[str]:
    with Journal(path) as journal:
        for text in lines:
            journal.write(text)
    return journal.entries


def sign(hive: Hive) -> str:
    return "Hive " + hive.label()


def cell_day() -> int:
    return brood_days("queen")


def card(hive: Hive, year: int) -> str:
    return hive.name + ": " + Queen(year).colour.upper()
