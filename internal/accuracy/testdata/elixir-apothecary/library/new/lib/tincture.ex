defmodule Tincture.Herb do
  @enforce_keys [:name]
  defstruct [:name, milligrams: 0, dried: true]
end

defmodule Tincture do
  @moduledoc "Recipes of an apothecary."

  def steep(herb, opts) when is_list(opts), do: herb.milligrams * Keyword.fetch!(opts, :days) / 10_000

  def dilute(ml, percent), do: Float.round(ml * percent / 100, 2)

  def label(herb), do: "#{herb.name}, #{herb.milligrams} mg"
  def parse(text), do: text |> String.split(",") |> List.first()

  def find(list, name) do
    case Enum.find(list, &(&1.name == name)) do
      nil -> :error
      herb -> {:ok, herb}
    end
  end

  def total(list), do: list |> Enum.map(& &1.milligrams) |> Enum.sum()
  def shelf(list), do: list |> Enum.map(& &1.name) |> Enum.sort()

  def strength(list, opts \\ []) do
    opts = Keyword.validate!(opts, weight: 1)
    total(list) * opts[:weight]
  end

  def dose(age) when age >= 2, do: if(age < 14, do: 5, else: 10)
end

defmodule Tincture.Vessel do
  def open(label), do: {:ok, label}
  def seal(jar), do: jar
end
