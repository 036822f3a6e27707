"""What is kept on disk and what is sent to the displays at the stops."""
import networkx as nx
from networkx.readwrite import json_graph


def keep(graph, path):
    nx.write_gpickle(graph, path)


def kept(path):
    return nx.read_gpickle(path)


def display(graph):
    return json_graph.node_link_data(graph, dict(source="from", target="to", name="stop", key="key", link="rides"))


def board(graph):
    return json_graph.cytoscape_data(graph, dict(name="stop", ident="id"))


def tree(graph, root):
    return json_graph.tree_data(graph, root, attrs=dict(id="stop", children="next"))


def mark(graph):
    return nx.weisfeiler_lehman_graph_hash(graph, edge_attr="line")
