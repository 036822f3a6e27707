require "doughbook"

# What the shop bakes.
module Shop
  module_function

  def farmhouse
    Doughbook::Recipe.new("Farmhouse", flour: 1000, water: 700, salt: 20)
  end

  def seeded
    farmhouse.add(:seeds, 80)
  end

  def batch(loaves)
    farmhouse.scale(loaves)
  end

  def stone_oven
    @stone_oven ||= Doughbook::Oven.new(240)
  end

  def crumb(recipe)
    stone_oven.bake(recipe)
  end

  def list(recipe)
    lines = []
    recipe.each_part { |name, grams| lines << "#{name}=#{grams}" }
    lines
  end

  def proofing
    Doughbook.proof(24)
  end

  def cost(recipe)
    Doughbook.price(recipe, 90)
  end

  def flour(name)
    Doughbook::Flour.named(name)
  end

  def known?(name)
    !Doughbook.find(name, [farmhouse]).nil?
  end

  def trays(list)
    Doughbook.plan(list, 2)
  end

  def rename(recipe, name)
    recipe.name = name
    recipe
  end

  def card(recipe)
    recipe.to_s
  end

  def read(line)
    Doughbook.parse(line)
  end
end
