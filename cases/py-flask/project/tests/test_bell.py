import pytest
from click.testing import CliRunner


@pytest.fixture
def ring():
    from mill.bell import bell

    return lambda *args: CliRunner().invoke(bell, list(args))


def test_bell_rings(ring):
    assert ring("ring-bell", "--times", "2").output == "ding ding \n"


def test_stones_of_a_word(ring):
    assert ring("stones").output == "a,b,c\n"


def test_unknown_bell(ring):
    assert 'no such option: --tim' in ring("ring-bell", "--tim", "2").output


def test_missing_grain(ring):
    assert 'Missing argument "GRAIN"' in ring("grind").output or "Missing argument 'GRAIN'" in ring("grind").output
