const fs = require('fs');
const path = require('path');
const yaml = require('js-yaml');

const folder = path.join(__dirname, 'data');
for (const file of fs.readdirSync(folder).sort()) {
  try {
    const sheet = yaml.load(fs.readFileSync(path.join(folder, file), 'utf8'), { filename: file });
    console.log(`${file}: ${Object.keys(sheet).length} entries`);
  } catch (err) {
    console.error(`${file}: ${err.name}: ${err.message.split('\n')[0]}`);
    process.exitCode = 1;
  }
}
const all = yaml.safeLoad(fs.readFileSync(path.join(folder, 'beans.yaml'), 'utf8'));
console.log(`beans: ${all.kinds.join(', ')}`);
