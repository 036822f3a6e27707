"""The roads below the lines."""
import networkx as nx


def span(graph):
    return nx.extrema_bounding(graph, compute="diameter")


def pairs(graph):
    return {frozenset(it) for it in nx.min_weight_matching(graph, maxcardinality=True, weight="metres")}


def crossings(graph):
    return nx.graph_clique_number(graph)


def squares(graph):
    return nx.node_clique_number(graph, "Mill")


def cliques(graph):
    return {frozenset(it) for it in nx.chordal_graph_cliques(graph)}


def meeting(graph, a, b):
    return nx.lowest_common_ancestor(graph, a, b)


def orders(graph):
    return nx.is_semiconnected(graph, topo_order=list(nx.topological_sort(graph)))


def length(graph):
    return nx.average_shortest_path_length(graph)


def loops(graph):
    return [sorted(it) for it in nx.minimum_cycle_basis(graph)]


def first_loop(graph):
    loop = nx.minimum_cycle_basis(graph)[0]
    loop = loop | {"Depot"} if isinstance(loop, set) else set(loop) | {"Depot"}
    return loop


def merged(trees):
    return nx.join(trees)


def beyond(graph, stop):
    return dict(nx.single_target_shortest_path_length(graph, stop))


def grown(n):
    return nx.scale_free_graph(n, seed=7, create_using=nx.MultiDiGraph()).number_of_nodes()


def both(a, b):
    return nx.union(a, b, rename=("a", "b"), name="both")


def sketch(graph):
    return nx.forest_str(graph)


def knots(graph):
    return sorted(len(it) for it in nx.strongly_connected_components_recursive(graph))


def walk(graph, start):
    return [b for _, b in nx.bfs_edges(graph, start, sort_neighbors=sorted)]
