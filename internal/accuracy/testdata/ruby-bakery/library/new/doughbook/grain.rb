module Doughbook
  class Grain
    attr_reader :type

    def initialize(type)
      @type = type
    end

    def ash
      @type / 1000.0
    end

    def self.named(name)
      { "white" => new(550), "rye" => new(1150) }[name]
    end
  end
end
