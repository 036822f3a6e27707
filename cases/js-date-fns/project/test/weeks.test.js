const assert = require('assert')
const { weeksBetween } = require('../lib/weeks')

describe('weeks', () => {
  it('lie between two days', () => assert.strictEqual(weeksBetween(new Date(2031, 7, 4), new Date(2031, 7, 20)), 2))
})
