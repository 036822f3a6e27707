ExUnit.start(seed: 0)
