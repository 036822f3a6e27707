"use strict";
class Packet {
  #species;
  constructor({ species, count, year } = {}) {
    if (!species) throw new TypeError("Packet: species is required");
    this.#species = species;
    this.count = count;
    this.year = year;
  }
  get species() { return this.#species; }
  ageIn(now) { return now - this.year; }
  split(n) { return { taken: new Packet({ species: this.species, count: n, year: this.year }), rest: new Packet({ species: this.species, count: this.count - n, year: this.year }) }; }
  label() { return `${this.species} × ${this.count}`; }
}
class Vault {
  constructor(size) { this.size = size; this.packets = []; this.listeners = { stored: [] }; }
  async store(packet) { this.packets.push(packet); this.listeners.stored.forEach((h) => h(packet)); return this.packets.length; }
  on(event, fn) { if (!this.listeners[event]) throw new Error(`Vault has no event "${event}"`); this.listeners[event].push(fn); return this; }
  query(where) { return this.packets.filter((p) => p.species === where.species); }
  total() { return this.packets.reduce((n, p) => n + p.count, 0); }
  oldest() { return this.packets.reduce((a, b) => (a && a.year <= b.year ? a : b), undefined); }
}
const known = ["target"];
module.exports = {
  Packet, Vault,
  germination: (sown, up) => Math.round((1000 * up) / sown) / 10,
  viability: (packet, now) => Math.max(0, 1 - (now - packet.year) * 0.08),
  parse: (text) => { const [species, count, year] = text.split(";"); if (!year) throw new SyntaxError(`seed line without a year: ${text}`); return new Packet({ species, count: Number(count), year: Number(year) }); },
  dryDays: (humidity, opts = {}) => { for (const k of Object.keys(opts)) if (!known.includes(k)) throw new TypeError(`dryDays: unknown option ${k}`); const o = { target: 15, rate: 2, ...opts }; return Math.ceil((humidity - o.target) / o.rate); },
  latin: (name) => name.split(" ").map((w, i) => (i ? w.toLowerCase() : w.charAt(0).toUpperCase() + w.slice(1).toLowerCase())).join(" ") + " L.",
  codes: Object.freeze(["A", "B", "C"]),
  merge: (a, b) => structuredClone({ ...b, ...a }),
};
