defmodule Pharmacy.CounterTest do
  use ExUnit.Case

  alias Pharmacy.Counter

  defp herb(name), do: Map.put(struct(Tincture.Herb, name: name), :milligrams, 30_000)

  test "sells sage" do
    assert Counter.sell([herb("sage")], "sage") == "sage"
  end

  test "sells thyme" do
    assert Counter.sell([herb("sage"), herb("thyme")], "thyme") == "thyme"
  end

  test "weakens" do
    assert Counter.weak(100) == 20.0
  end

  test "makes mild" do
    assert Counter.mild(100) == 40.0
  end

  test "warms" do
    assert Counter.warm(Map.put(herb("sage"), :grams, 30)) == 21.0
  end

  test "cools" do
    assert Counter.cold(Map.put(herb("sage"), :grams, 30)) == 21.0
  end

  test "moons" do
    assert Counter.moon(30) == 2
  end

  test "new moon" do
    assert Counter.moon(28) == 0
  end

  test "opens" do
    assert Counter.open("x") == {:ok, "x"}
  end

  test "closes" do
    assert Counter.close("x") == "x"
  end

  test "reads a line" do
    assert Counter.read("sage 30") == "sage"
  end

  test "reads a long line" do
    assert Counter.read("thyme 20 dried") == "thyme"
  end

  test "doses a boy" do
    assert Counter.spoons(13) == 10
  end

  test "doses a baby" do
    assert Counter.spoons(1) == 5
  end

  test "shelves as delivered" do
    assert Counter.shelf([herb("thyme"), herb("sage")]) == ["thyme", "sage"]
  end

  test "first on the shelf" do
    assert hd(Counter.shelf([herb("thyme"), herb("sage")])) == "thyme"
  end

  test "measures exactly" do
    assert Counter.measured(1.234) == 0.40722
  end

  test "measures drops" do
    assert Counter.measured(0.01) > 0
  end

  test "strong" do
    assert Counter.strong([]) == 0
  end

  test "stronger" do
    assert Counter.strong([]) < 1
  end

  test "tags" do
    assert Counter.tag(Map.put(herb("sage"), :grams, 30)) == "sage 30 g"
  end

  test "tags nettle" do
    assert Counter.tag(Map.put(herb("nettle"), :grams, 5)) =~ "5 g"
  end

  test "is open on Sundays" do
    assert System.get_env("PHARMACY_DAY") == "Sunday"
  end
end
