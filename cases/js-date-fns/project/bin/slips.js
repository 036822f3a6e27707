// Prints the slips of the day; a slip that cannot be printed is said and the rest goes on.
const { distanceInWordsToNow, format } = require('date-fns')
const { deliveries, due } = require('../lib/ledger')
const { weighed } = require('../lib/slips')
const { pickingDays } = require('../lib/seasons')

process.emitWarning('the old slip layout goes with the next printer', 'DeprecationWarning', 'SLIP01')

const steps = {
  'slip of crate 11': () => weighed(new Date(2031, 7, 4, 9, 30)),
  'payout of crate 11': () => format(due(deliveries[0]), 'MMM'),
  'open since': () => distanceInWordsToNow(new Date(2031, 7, 4)).length > 0,
  'days of the summer red': () => pickingDays('summerred').length,
}
for (const [name, step] of Object.entries(steps)) {
  try {
    console.log(`${name}: ${step()}`)
  } catch (problem) {
    console.error(`ERROR ${name}: ${problem.message}`)
    process.exitCode = 1
  }
}
const locale = require('date-fns/locale/en')
console.log(`printed in ${Object.keys(locale).length > 0 ? 'English' : '?'}`)
