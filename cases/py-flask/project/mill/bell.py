"""The bell: a command for those without a browser."""
import click


@click.group()
def bell():
    pass


@bell.command()
@click.option("--times", default=1)
def ring_bell(times):
    click.echo("ding " * times)


@bell.command()
@click.option("--stone", multiple=True, default="abc")
def stones(stone):
    click.echo(",".join(stone))


def complete(ctx, args, incomplete):
    return ["rye"]


@bell.command()
@click.argument("grain", autocompletion=complete)
def grind(grain):
    click.echo(grain)
