import networkx as nx
import pytest


@pytest.fixture
def square():
    graph = nx.Graph()
    for a, b, minutes in [("Mill", "Church", 4), ("Church", "Bridge", 3), ("Bridge", "Quarry", 6), ("Quarry", "Mill", 5)]:
        graph.add_edge(a, b, minutes=minutes, metres=minutes * 400, fare=minutes, line="7")
    return graph


@pytest.fixture
def triangle():
    return nx.Graph([("Mill", "Church"), ("Church", "Bridge"), ("Bridge", "Mill"), ("Bridge", "Quarry")])


@pytest.fixture
def tree():
    return nx.DiGraph([("Depot", "Mill"), ("Depot", "Church"), ("Mill", "Bridge"), ("Mill", "Quarry")])
