const yaml = require('js-yaml');

// What a volunteer reads who has mistyped a sheet.
function fault(text) {
  try {
    yaml.load(text, { filename: 'sheet.yaml' });
  } catch (err) {
    return err.message.split('\n')[0];
  }
  return 'nothing wrong';
}

function shown(text) {
  try {
    yaml.load(text);
  } catch (err) {
    return err.mark.getSnippet ? err.mark.getSnippet(0, 40).trim() : err.mark.snippet;
  }
  return '';
}

module.exports = { fault, shown };
