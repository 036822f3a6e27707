const yaml = require('js-yaml');

// A packet of seed as its sheet tells it.
function packet(text) {
  const sheet = yaml.safeLoad(text);
  return {
    name: sheet.name,
    sown: sheet.sown,
    depth: sheet.depth,
    shelf: sheet.shelf,
    days: sheet.days || [],
  };
}

function packets(text) {
  const found = [];
  yaml.safeLoadAll(text, (sheet) => { if (sheet) found.push(sheet.name); });
  return found;
}

function write(sheet) {
  return yaml.safeDump(sheet, { lineWidth: 60 });
}

module.exports = { packet, packets, write };
