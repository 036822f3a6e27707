defmodule Tincture.MixProject do
  use Mix.Project

  def project do
    [app: :tincture, version: "2.0.0", elixir: "~> 1.14"]
  end
end
