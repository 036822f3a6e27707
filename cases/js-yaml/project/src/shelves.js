const yaml = require('js-yaml');

// Shelves are kept by number; hours are kept as minutes.
function shelves(text) {
  const sheet = yaml.load(text);
  return Object.keys(sheet).map((name) => ({ name, place: sheet[name] }));
}

function opening(text) {
  const { opens, shuts } = yaml.load(text);
  return { opens, shuts, minutes: shuts - opens };
}

function photograph(text) {
  return yaml.load(text).photograph.toString('hex');
}

function wishes(text) {
  return yaml.load(text).wishes;
}

function borrowers(text) {
  return yaml.load(text);
}

module.exports = { shelves, opening, photograph, wishes, borrowers };
