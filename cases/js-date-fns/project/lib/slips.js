// What is printed on a slip.
const { format, distanceInWords, isValid, parse, differenceInDays } = require('date-fns')

const weighed = (at) => format(at, 'DD.MM.YYYY HH:mm')

const month = (at) => format(at, 'MMMM YYYY')

const weekday = (at) => format(at, 'dddd')

const shelf = (at) => format(at, '[shelf of] MMMM')

const stamp = (at) => format(at)

const age = (from, to) => distanceInWords(from, to)

const fresh = (from, to) => differenceInDays(to, from) <= 3

const readable = (value) => {
  try {
    return isValid(value) ? 'yes' : 'no'
  } catch (problem) {
    return problem.constructor.name
  }
}

const fromClock = (millis) => parse(millis)

module.exports = { weighed, month, weekday, shelf, stamp, age, fresh, readable, fromClock }
