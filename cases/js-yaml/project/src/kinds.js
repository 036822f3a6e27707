const yaml = require('js-yaml');

class Moon {
  constructor(phase) { this.phase = phase; }
}

const moon = new yaml.Type('!moon', {
  kind: 'scalar',
  instanceOf: Moon,
  construct: (phase) => new Moon(phase),
  represent: (it) => it.phase,
});

const almanac = yaml.Schema.create(yaml.DEFAULT_SAFE_SCHEMA, [moon]);

module.exports = { Moon, almanac };
