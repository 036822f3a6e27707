"""Tables of minutes between stops, for the people who plan with spreadsheets."""
import networkx as nx


def minutes(graph):
    return nx.to_numpy_matrix(graph, weight="minutes")


def from_minutes(table):
    return nx.from_numpy_matrix(table)


def sparse(graph):
    return nx.to_scipy_sparse_matrix(graph, weight="minutes")


def reach(graph, steps):
    table = nx.adjacency_matrix(graph)
    power = table
    for _ in range(steps - 1):
        power = power * table
    return power.sum()


def spread(graph):
    table = nx.laplacian_matrix(graph)
    return (table * table).diagonal().tolist()


def records(graph):
    return nx.to_numpy_recarray(graph, dtype=[("minutes", float), ("fare", int)])


def ranks(graph):
    return nx.pagerank_numpy(graph)


def rank(graph):
    return nx.pagerank_scipy(graph, alpha=0.9)


def chances(graph):
    return nx.google_matrix(graph)[0].shape
