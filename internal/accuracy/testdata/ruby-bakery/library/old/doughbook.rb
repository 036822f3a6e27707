require "doughbook/flour"

# Recipes of a bakery, by baker's percentages.
module Doughbook
  VERSION = "1.14.2"

  class Recipe
    attr_accessor :name, :parts

    def initialize(name, parts = {})
      @name = name
      @parts = parts
    end

    def hydration
      100 * @parts.fetch(:water, 0) / @parts.fetch(:flour)
    end

    def scale(factor)
      Recipe.new(@name, @parts.transform_values { |v| v * factor })
    end

    def weight
      @parts.values.sum
    end

    def to_s
      "#{@name}: #{@parts.map { |k, v| "#{v} g #{k}" }.join(", ")}"
    end

    def add(part, grams)
      @parts[part] = grams
      self
    end

    def each_part(&block)
      @parts.each(&block)
    end
  end

  class Oven
    def initialize(celsius, steam = false)
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
    list.find { |r| r.name == name }
  end

  def self.proof(celsius)
    warn "DEPRECATED: Doughbook.proof is going away, use Doughbook.rise (called from #{caller(1..1).first})"
    rise(celsius)
  end

  def self.rise(celsius)
    (90 * 24.0 / celsius).round
  end

  def self.price(recipe, cents_per_kilo)
    recipe.weight * cents_per_kilo / 1000
  end

  def self.plan(loaves, per_tray)
    loaves.each_slice(per_tray).to_a
  end

  def self.parse(line)
    name, *parts = line.split(";")
    Recipe.new(name, parts.to_h { |p| p.split("=").then { |k, v| [k.to_sym, v.to_i] } })
  end
end
