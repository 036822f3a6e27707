"""The bus lines of a valley, as a graph of stops."""
import networkx as nx


def lines(pairs):
    graph = nx.OrderedGraph()
    graph.add_edges_from(pairs)
    return graph


def circular(stops):
    graph = nx.OrderedDiGraph()
    nx.add_cycle(graph, stops)
    return graph


def summary(graph):
    return nx.info(graph).splitlines()


def passes(graph, stops):
    """Whether a bus can drive by these stops; a stop that is not there is a mistake."""
    try:
        return nx.is_path(graph, stops)
    except KeyError as missing:
        raise LookupError(f"no stop {missing}") from missing


def feeders(graph):
    return nx.average_neighbor_degree(graph, source="in", target="in")


def rename(graph, names):
    return nx.relabel_nodes(graph, names)
