defmodule Pharmacy.Counter do
  @moduledoc "What is sold over the counter."

  def sell(list, name) do
    herb = Tincture.find(list, name)
    herb.name
  end

  def weak(ml), do: Tincture.thin(ml, 20)
  def mild(ml), do: Tincture.thin(ml, 40)
  def tag(herb), do: Tincture.label(herb)
  def cold(herb), do: Tincture.steep(herb, 14, :cold)
  def warm(herb), do: Tincture.steep(herb, 7)
  def strong(list), do: Tincture.strength(list, factor: 2)
  def moon(day), do: Tincture.moon(day)
  def open(label), do: Tincture.Jar.open(label)
  def close(jar), do: Tincture.Jar.seal(jar)
  def read(line), do: Tincture.parse(line)
  def spoons(age), do: Tincture.dose(age)
  def shelf(list), do: Tincture.shelf(list)
  def measured(ml), do: Tincture.dilute(ml, 33)
  def unused(x), do: :ok
end
