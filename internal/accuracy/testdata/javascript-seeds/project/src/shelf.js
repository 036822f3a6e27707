const seedbank = require("seedbank");
const { createVault, Packet } = require("seedbank");

const packet = (species, count, year) => new Packet(species, count, year);

function fill(lines) {
  const vault = createVault(100);
  for (const line of lines) vault.store(seedbank.parse(line));
  return vault;
}

function give(p, n) {
  const [taken, rest] = p.split(n);
  return `${taken.count}/${rest.count}`;
}

const tag = (p) => p.label();
const old = (p, now) => p.age(now) > 5;
const dry = (humidity) => seedbank.dryDays(humidity, { rate: 4 });
const good = (p, now) => seedbank.viability(p, now) > 0.5;

function watch(vault, list) {
  vault.on("added", (p) => list.push(p.species));
  return vault;
}

module.exports = { packet, fill, give, tag, old, dry, good, watch };
