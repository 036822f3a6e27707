defmodule Pharmacy.MixProject do
  use Mix.Project

  def project do
    [app: :pharmacy, version: "0.1.0", elixir: "~> 1.14", deps: [{:tincture, path: "../tincture"}]]
  end
end
