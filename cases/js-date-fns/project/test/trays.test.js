const assert = require('assert')
const { borrowed, season, unset } = require('../lib/trays')

describe('trays', () => {
  it('come back the same week', () => assert.strictEqual(borrowed(new Date(2031, 7, 8), 3).getDate(), 5))
  it('count half a day as a day', () => assert.strictEqual(borrowed(new Date(2031, 7, 8), 2.5).getDate(), 5))
  it('go into the next season', () => assert.strictEqual(season(new Date(2031, 7, 8), 8).getMonth(), 8))
  it('have no day yet', () => assert.strictEqual(unset(null), true))
  it('are counted by the crate', () => assert.strictEqual(deliveriesOf(12), 3))
})
