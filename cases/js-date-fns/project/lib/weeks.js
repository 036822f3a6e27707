const differenceInCalendarISOWeeks = require('date-fns/difference_in_calendar_iso_weeks')

const weeksBetween = (a, b) => differenceInCalendarISOWeeks(b, a)

module.exports = { weeksBetween }
