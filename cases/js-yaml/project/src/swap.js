const dumper = require('js-yaml/lib/js-yaml/dumper');

// The list that goes to the swap on Saturdays.
function list(seeds) {
  return dumper.dump({ swap: seeds });
}

module.exports = { list };
