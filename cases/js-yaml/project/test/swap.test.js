const { list } = require('../src/swap');

describe('the swap', () => {
  test('has a list', () => {
    expect(list(['cos'])).toBe('swap:\n  - cos\n');
  });
  test('may be empty', () => {
    expect(list([])).toBe('swap: []\n');
  });
});
