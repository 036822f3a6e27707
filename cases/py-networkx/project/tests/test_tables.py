import networkx as nx
import numpy as np

from valley import tables


def test_minutes_between_stops(square):
    assert tables.minutes(square)[0, 1] == 4


def test_minutes_add_up(square):
    assert tables.minutes(square).sum() == 36


def test_minutes_make_a_graph():
    assert tables.from_minutes(np.array([[0, 2], [2, 0]])).number_of_edges() == 1


def test_sparse_minutes(square):
    assert tables.sparse(square).nnz == 8


def test_sparse_minutes_of_one_line():
    assert tables.sparse(nx.path_graph(2)).shape == (2, 2)


def test_reach_in_two(square):
    assert tables.reach(square, 2) == 16


def test_reach_in_three(square):
    assert tables.reach(square, 3) == 32


def test_spread(square):
    assert tables.spread(square) == [6, 6, 6, 6]


def test_records(square):
    assert tables.records(square).minutes[0, 1] == 4


def test_ranks(square):
    assert round(tables.ranks(square)["Mill"], 3) == 0.25


def test_rank(square):
    assert round(tables.rank(square)["Mill"], 3) == 0.25


def test_chances_are_a_row(square):
    assert tables.chances(square) == (1, 4)
