const yaml = require('js-yaml');

// A frost is a day's lowest degree, written with a tag of our own.
class Frost {
  constructor(degree) { this.degree = degree; }
}

const frost = new yaml.Type('!frost', {
  kind: 'scalar',
  instanceOf: Frost,
  resolve: (value) => value !== null && !Number.isNaN(Number(value)),
  construct: (value) => new Frost(Number(value)),
  represent: (it) => String(it.degree),
});

const base = new yaml.Schema({ include: [], explicit: [frost], implicit: [] });

function observed(frosts) {
  return yaml.dump(frosts, { schema: new yaml.Schema({ include: [yaml.CORE_SCHEMA], explicit: [frost] }) });
}

function plain(text) {
  return yaml.load(text, { schema: yaml.DEFAULT_FULL_SCHEMA });
}

function rules(text) {
  return yaml.load(text).rules;
}

function season(text) {
  return yaml.load(text, { schema: yaml.DEFAULT_SAFE_SCHEMA.constructor === yaml.Schema ? yaml.DEFAULT_SAFE_SCHEMA : undefined });
}

module.exports = { Frost, base, observed, plain, rules, season };
