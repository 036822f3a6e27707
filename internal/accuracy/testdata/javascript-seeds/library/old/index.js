"use strict";
class Packet {
  constructor(species, count, year) {
    this.species = species;
    this.count = count;
    this.year = year;
  }
  age(now) { return now - this.year; }
  split(n) { return [new Packet(this.species, n, this.year), new Packet(this.species, this.count - n, this.year)]; }
  label() { return `${this.species} x${this.count}`; }
}
class Vault {
  constructor(size) { this.size = size; this.packets = []; this.handlers = []; }
  store(packet, cb) { this.packets.push(packet); this.handlers.forEach((h) => h(packet)); if (cb) cb(null, this.packets.length); return this; }
  on(event, fn) { this.handlers.push(fn); return this; }
  find(species) { return this.packets.filter((p) => p.species === species); }
  total() { return this.packets.reduce((n, p) => n + p.count, 0); }
  oldest() { return this.packets.reduce((a, b) => (a && a.year <= b.year ? a : b), null); }
  export() { return this.packets.map((p) => p.label()); }
}
module.exports = {
  Packet, Vault,
  createVault: (size) => new Vault(size),
  germination: (sown, up) => Math.round((100 * up) / sown),
  viability: (packet, now) => Math.max(0, 1 - packet.age(now) * 0.1),
  parse: (text) => { const [s, c, y] = text.split(";"); return new Packet(s, Number(c), Number(y)); },
  dryDays: (humidity, opts = {}) => { const o = { target: 15, rate: 2, ...opts }; return Math.ceil((humidity - o.target) / o.rate); },
  latin: (name) => name.charAt(0).toUpperCase() + name.slice(1).toLowerCase(),
  codes: { list: () => ["A", "B", "C"], of: (p) => p.species.slice(0, 3).toUpperCase() },
  merge: (a, b) => ({ ...a, ...b }),
};
