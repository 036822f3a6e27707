// Deliveries as the intake writes them: days are kept as text.
const { addDays, addMonths, differenceInDays, isAfter, isSameDay, getMonth, min, max, closestTo } = require('date-fns')

const deliveries = [
  { crate: 11, day: '2031-08-04', kilos: 420 },
  { crate: 12, day: '2031-08-19', kilos: 380 },
  { crate: 13, day: '2031-09-12', kilos: 510 },
]

const due = (d) => addDays(d.day, 14)

const payoutMonth = (d) => getMonth(addMonths(d.day, 1))

const waited = (d, today) => differenceInDays(today, d.day)

const late = (d, today) => isAfter(today, due(d))

const onDay = (day) => deliveries.filter((d) => isSameDay(d.day, day)).map((d) => d.crate)

const span = () => ({ first: min(...deliveries.map((d) => new Date(d.day))), last: max(...deliveries.map((d) => new Date(d.day))) })

const nearest = (day, list) => closestTo(day, list)

module.exports = { deliveries, due, payoutMonth, waited, late, onDay, span, nearest }
