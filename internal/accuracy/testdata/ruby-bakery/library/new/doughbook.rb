require "doughbook/grain"

# Recipes of a bakery, by baker's percentages.
module Doughbook
  VERSION = "2.0.0"

  class Recipe
    attr_reader :name, :parts

    def initialize(name, parts = {})
      @name = name
      @parts = parts.transform_keys(&:to_sym).freeze
    end

    def hydration
      (100.0 * @parts.fetch(:water, 0) / @parts.fetch(:flour)).round(1)
    end

    def scale(by:)
      Recipe.new(@name, @parts.transform_values { |v| v * by })
    end

    def weight
      @parts.values.sum
    end

    def to_s
      "#{@name} (#{@parts.map { |k, v| "#{k} #{v} g" }.join(", ")})"
    end

    def with(part, grams)
      Recipe.new(@name, @parts.merge(part => grams))
    end

    def each_ingredient(&block)
      @parts.each(&block)
    end
  end

  class Oven
    def initialize(celsius:, steam: true)
      @celsius = celsius
      @steam = steam
    end

    def bake(recipe, minutes = 40)
      loss = @steam ? 0.10 : 0.12
      (recipe.weight * (1 - loss)).round - minutes / 60
    end

    def steam?
      @steam
    end
  end

  class NotFound < StandardError; end

  def self.find(name, list)
    list.find { |r| r.name == name } || raise(NotFound, "no recipe called #{name}")
  end

  def self.rise(celsius)
    (90 * 26.0 / celsius).round
  end

  def self.plan(loaves, per_tray)
    loaves.each_slice(per_tray).to_a.reverse
  end

  def self.parse(line)
    name, *parts = line.split(",")
    Recipe.new(name, parts.to_h { |p| p.split("=").then { |k, v| [k.to_sym, Integer(v)] } })
  end
end
