defmodule Tincture.Herb do
  defstruct name: "", grams: 0, dried: true
end

defmodule Tincture do
  @moduledoc "Recipes of an apothecary."

  def steep(herb, days), do: herb.grams * days / 10
  def steep(herb, days, :cold), do: herb.grams * days / 20

  @deprecated "use dilute/2"
  def thin(ml, percent), do: dilute(ml, percent)
  def dilute(ml, percent), do: ml * percent / 100

  def label(herb), do: herb.name <> " " <> Integer.to_string(herb.grams) <> " g"
  def parse(text), do: text |> String.split(" ") |> List.first()
  def find(list, name), do: Enum.find(list, &(&1.name == name))
  def total(list), do: list |> Enum.map(& &1.grams) |> Enum.sum()
  def shelf(list), do: Enum.map(list, & &1.name)
  def strength(list, opts \\ []), do: total(list) * Keyword.get(opts, :factor, 1)
  def dose(age), do: if(age < 12, do: 5, else: 10)
  def moon(day), do: rem(day, 28)
end

defmodule Tincture.Jar do
  def open(label), do: {:ok, label}
  def seal(jar), do: jar
end
