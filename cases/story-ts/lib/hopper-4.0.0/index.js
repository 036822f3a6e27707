'use strict';

class Bale {
  constructor(kilos, sort = 'Golding') {
    this.kilos = kilos;
    this.sort = sort;
  }
  toPounds() {
    return Math.round(this.kilos * 2.2046);
  }
}

/** How good a bale is by its weight; null for what is too light to be graded. */
function grade(bale) {
  if (bale.kilos >= 60) return 'A';
  if (bale.kilos >= 40) return 'B';
  return bale.kilos >= 5 ? 'C' : null;
}

/** A bale after some hours in the kiln: each takes a twentieth. */
function dry(bale, { hours, loss = 0.05 }) {
  return new Bale(Math.round(bale.kilos * (1 - loss) ** hours * 10) / 10, bale.sort);
}

/** What a day's bales come to. */
function ledger(bales) {
  return { bales, kilos: bales.reduce((sum, b) => sum + b.kilos, 0) };
}

/** The order in which carts are weighed: drawn by lot. */
function queue(carts) {
  return carts
    .map((cart) => [Math.random(), cart])
    .sort((a, b) => a[0] - b[0])
    .map(([, cart]) => cart);
}

/** Rounds kilos down to the scale's half. */
function half(kilos) {
  return Math.floor(kilos * 2) / 2;
}

/** A bale from what the scale says. */
function weigh(kilos) {
  process.emitWarning('weigh() is deprecated and goes in hopper 5. Use Bale.of() instead.', 'DeprecationWarning', 'HOP004');
  return new Bale(half(kilos));
}

Bale.of = (kilos) => new Bale(half(kilos));

module.exports = { Bale, grade, dry, ledger, queue, half, weigh };
