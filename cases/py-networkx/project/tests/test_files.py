import pytest

from valley import files


def test_graph_is_kept(square, tmp_path):
    files.keep(square, tmp_path / "lines.pickle")


def test_kept_graph_is_read(square, tmp_path):
    files.keep(square, tmp_path / "lines.pickle")
    assert files.kept(tmp_path / "lines.pickle").number_of_nodes() == 4


def test_empty_file_is_no_graph(tmp_path):
    (tmp_path / "lines.pickle").write_bytes(b"")
    with pytest.raises(EOFError):
        files.kept(tmp_path / "lines.pickle")


def test_display_has_rides(square):
    assert len(files.display(square)["rides"]) == 4


def test_display_has_stops(square):
    assert files.display(square)["nodes"][0] == {"stop": "Mill"}


def test_board(square):
    assert files.board(square)["elements"]["nodes"][0]["data"]["id"] == "Mill"


def test_tree_of_stops(tree):
    assert files.tree(tree, "Depot")["stop"] == "Depot"


def test_tree_goes_on(tree):
    assert [it["stop"] for it in files.tree(tree, "Depot")["next"]] == ["Mill", "Church"]


def test_mark_is_the_same_as_last_year(square):
    assert files.mark(square) == "b4b942f24718711bda4b2c6329b0ffa6"
