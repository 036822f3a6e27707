import networkx as nx
import pytest

from valley import lines


def test_lines_keep_their_order():
    assert list(lines.lines([("Quarry", "Mill"), ("Mill", "Church")])) == ["Quarry", "Mill", "Church"]


def test_lines_have_stops():
    assert lines.lines([("Quarry", "Mill")]).number_of_nodes() == 2


def test_circular_line_comes_back():
    assert lines.circular(["Mill", "Church", "Bridge"]).has_edge("Bridge", "Mill")


def test_summary_names_the_kind(square):
    assert lines.summary(square)[0] == "Graph with 4 nodes and 4 edges"


def test_summary_of_nothing():
    assert lines.summary(nx.Graph()) == ["Graph with 0 nodes and 0 edges"]


def test_missing_stop_is_a_mistake(square):
    with pytest.raises(LookupError):
        lines.passes(square, ["Moor", "Mill"])


def test_bus_passes(square):
    assert lines.passes(square, ["Mill", "Church", "Bridge"])


def test_feeders_of_a_line():
    line = nx.path_graph(3, create_using=nx.DiGraph)
    assert lines.feeders(line) == {0: 0.0, 1: 1.0, 2: 0.0}


def test_names_are_shouted(square):
    class Shout(dict):
        def __call__(self, name):
            return name.upper()

    assert set(lines.rename(square, Shout(Mill="Old Mill"))) == {"Old Mill", "Church", "Bridge", "Quarry"}


def test_line_is_short(square):
    assert square.number_of_edges() == 3
