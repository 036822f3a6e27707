"""What the planners ask."""
import networkx as nx
from networkx.algorithms import community
from networkx.utils import make_str, is_list_of_ints, to_tuple


def title(stop):
    return make_str(stop)


def numbered(stops):
    return is_list_of_ints(stops)


def frozen(stops):
    return to_tuple(stops)


def districts(graph, count):
    return [sorted(it) for it in community.greedy_modularity_communities(graph, n_communities=count)]
