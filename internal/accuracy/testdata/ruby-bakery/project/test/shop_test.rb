require "minitest/autorun"
require "shop"

class ShopTest < Minitest::Test
  def test_hydration
    assert_equal 70, Shop.farmhouse.hydration
  end

  def test_hydration_of_two_thirds
    assert_equal 66, Doughbook::Recipe.new("Toast", flour: 900, water: 600).hydration
  end

  def test_hydration_is_whole
    assert_kind_of Integer, Shop.farmhouse.hydration
  end

  def test_seeds
    assert_equal 1800, Shop.seeded.weight
  end

  def test_seeds_last
    assert_equal :seeds, Shop.seeded.parts.keys.last
  end

  def test_batch
    assert_equal 5160, Shop.batch(3).weight
  end

  def test_small_batch
    assert_equal 860, Shop.batch(0.5).weight
  end

  def test_list
    assert_equal 3, Shop.list(Shop.farmhouse).size
  end

  def test_list_first
    assert_equal "flour=1000", Shop.list(Shop.farmhouse).first
  end

  def test_proofing
    assert_equal 90, Shop.proofing
  end

  def test_proofing_is_long
    assert_operator Shop.proofing, :>, 80
  end

  def test_cost
    assert_equal 154, Shop.cost(Shop.farmhouse)
  end

  def test_cost_of_nothing
    assert_equal 0, Shop.cost(Doughbook::Recipe.new("None"))
  end

  def test_flour
    assert_equal 550, Shop.flour("white").type
  end

  def test_rye
    assert_in_delta 1.15, Shop.flour("rye").ash
  end

  def test_known
    assert Shop.known?("Farmhouse")
  end

  def test_unknown
    refute Shop.known?("Baguette")
  end

  def test_unknown_too
    refute Shop.known?("Bun")
  end

  def test_trays
    assert_equal [[1, 2], [3]], Shop.trays([1, 2, 3])
  end

  def test_first_tray_is_full
    assert_equal 2, Shop.trays([1, 2, 3]).first.size
  end

  def test_rename
    assert_equal "Country", Shop.rename(Shop.farmhouse, "Country").name
  end

  def test_rename_keeps_the_weight
    assert_equal 1720, Shop.rename(Shop.farmhouse, "Country").weight
  end

  def test_card
    assert_equal "Farmhouse: 1000 g flour, 700 g water, 20 g salt", Shop.card(Shop.farmhouse)
  end

  def test_card_has_grams
    assert_match(/1000 g flour/, Shop.card(Shop.farmhouse))
  end

  def test_rise
    assert_equal 108, Doughbook.rise(20)
  end

  def test_rise_when_warm
    assert_equal 72, Doughbook.rise(30)
  end

  def test_read
    assert_equal 700, Shop.read("Farmhouse;flour=1000;water=700").parts[:water]
  end

  def test_read_name
    assert_equal "Farmhouse", Shop.read("Farmhouse;flour=1000").name
  end

  def test_holiday
    assert_equal "closed", ENV.fetch("SHOP_TODAY", "open")
  end
end

class OvenTest < Minitest::Test
  def setup
    @oven = Shop.stone_oven
  end

  def test_crumb
    assert_equal 1514, Shop.crumb(Shop.farmhouse)
  end

  def test_steam
    refute @oven.steam?
  end

  def test_bakes
    assert_equal 880, @oven.bake(Doughbook::Recipe.new("Plain", flour: 1000))
  end

  def test_bakes_twice
    assert_equal 879, @oven.bake(Doughbook::Recipe.new("Plain", flour: 1000), 60)
  end
end
