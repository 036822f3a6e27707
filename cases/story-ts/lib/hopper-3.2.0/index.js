'use strict';

class Bale {
  constructor(kilos, sort = 'Golding') {
    this.kilos = kilos;
    this.sort = sort;
  }
  pounds() {
    return Math.round(this.kilos * 2.2046);
  }
}

/** How good a bale is by its weight. */
function grade(bale) {
  if (bale.kilos >= 60) return 'A';
  return bale.kilos >= 40 ? 'B' : 'C';
}

/** A bale after some hours in the kiln: each takes a twentieth. */
function dry(bale, hours) {
  return new Bale(Math.round(bale.kilos * 0.95 ** hours * 10) / 10, bale.sort);
}

/** What a day's bales come to. */
function ledger(bales) {
  return { bales, total: bales.reduce((sum, b) => sum + b.kilos, 0) };
}

/** The order in which carts are weighed: as they came. */
function queue(carts) {
  return [...carts];
}

/** Rounds kilos to the scale's half. */
function half(kilos) {
  return Math.round(kilos * 2) / 2;
}

/** A bale from what the scale says. */
function weigh(kilos) {
  return new Bale(half(kilos));
}

module.exports = { Bale, grade, dry, ledger, queue, half, weigh };
