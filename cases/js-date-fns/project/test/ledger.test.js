const assert = require('assert')
const { deliveries, due, payoutMonth, waited, late, onDay, span, nearest } = require('../lib/ledger')

const [first, second] = deliveries

describe('the ledger', () => {
  it('pays after two weeks', () => assert.strictEqual(due(first).getDate(), 18))
  it('pays in the month after', () => assert.strictEqual(payoutMonth(second), 8))
  it('counts the days that a grower waits', () => assert.strictEqual(waited(first, new Date(2031, 7, 9)), 5))
  it('is late after that', () => assert.strictEqual(late(first, new Date(2031, 7, 30)), true))
  it('is not late before', () => assert.strictEqual(late(second, new Date(2031, 7, 30)), false))
  it('finds the crates of a day', () => assert.deepStrictEqual(onDay(new Date(2031, 8, 12)), [13]))
  it('knows its first day', () => assert.strictEqual(span().first.getUTCDate(), 4))
  it('knows its last day', () => assert.strictEqual(span().last.getUTCMonth(), 8))
  it('finds the nearest market day', () => assert.strictEqual(nearest(new Date(2031, 7, 5), [new Date(2031, 7, 1), new Date(2031, 7, 8)]).getDate(), 8))
  it('asks for a list of market days', () => assert.throws(() => nearest(new Date(2031, 7, 5), new Date(2031, 7, 8)), TypeError))
})
