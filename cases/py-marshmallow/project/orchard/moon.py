"""Some growers pick by the moon."""


def phase(day):
    return (day % 29) / 29
