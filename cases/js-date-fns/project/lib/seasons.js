// The weeks in which a sort is picked.
const { isWithinRange, eachDay, areRangesOverlapping, getISOYear, startOfWeek, addDays } = require('date-fns')

const seasons = {
  summerred: { from: new Date(2031, 7, 4), to: new Date(2031, 7, 20) },
  goldrenette: { from: new Date(2031, 8, 10), to: new Date(2031, 9, 2) },
  winterpear: { from: new Date(2031, 8, 28), to: new Date(2031, 9, 30) },
}

const inSeason = (sort, day) => isWithinRange(day, seasons[sort].from, seasons[sort].to)

const pickingDays = (sort) => eachDay(seasons[sort].from, seasons[sort].to)

const clash = (a, b) => areRangesOverlapping(seasons[a].from, seasons[a].to, seasons[b].from, seasons[b].to)

const bookYear = (day) => getISOYear(day)

const weekOf = (day) => startOfWeek(day, { weekStartsOn: 7 })

const opening = (sort, delay) => addDays(seasons[sort].from, delay)

module.exports = { seasons, inSeason, pickingDays, clash, bookYear, weekOf, opening }
