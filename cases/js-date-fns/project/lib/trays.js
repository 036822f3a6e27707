// Trays come back after some days; a part of a day is counted as the desk does.
const { subDays, setMonth, isEqual } = require('date-fns')

const borrowed = (back, days) => subDays(back, days)

const season = (day, month) => setMonth(day, month)

const unset = (day) => isEqual(day, new Date(0))

module.exports = { borrowed, season, unset }
