"""Labels for the sacks."""
from jinja2 import Environment, Markup, contextfilter, evalcontextfilter, escape


@contextfilter
def in_season(context, name):
    return name if context.get("season") else "sold out"


def sheet(names):
    env = Environment(autoescape=True)
    env.filters["in_season"] = in_season
    return env.from_string("{% for n in names %}<p>{{ n | in_season }}</p>{% endfor %}").render(names=names, season=1)


def bold(name):
    return Markup("<b>%s</b>") % escape(name)
