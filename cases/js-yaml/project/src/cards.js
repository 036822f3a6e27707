const yaml = require('js-yaml');

// What is printed on the cards of the catalogue.
function card(seed) {
  return yaml.dump(seed, { schema: yaml.JSON_SCHEMA });
}

function drawer(cards) {
  return yaml.dump(cards, { schema: yaml.JSON_SCHEMA, skipInvalid: true });
}

function label(seed) {
  return yaml.dump(seed, { flowLevel: 1 }).trim();
}

module.exports = { card, drawer, label };
