const { card, drawer, label } = require('../src/cards');

describe('a card', () => {
  test('quotes what has brackets', () => {
    expect(card({ latin: 'Vicia [broad]' })).toBe("latin: 'Vicia [broad]'\n");
  });
  test('quotes what has a colon', () => {
    expect(card({ kept: 'cool:dry' })).toBe("kept: 'cool:dry'\n");
  });
  test('quotes a range', () => {
    expect(label({ rows: 'a[1]' })).toBe("rows: 'a[1]'");
  });
  test('bears a flower', () => {
    expect(card({ flower: '🌸' })).toBe('flower: "\\U0001F338"\n');
  });
  test('bears fruit', () => {
    expect(card({ fruit: '🍐', name: 'Conference' })).toBe('fruit: "\\U0001F350"\nname: Conference\n');
  });
  test('has a latin name or is refused', () => {
    expect(() => card({ latin: undefined })).toThrow('unacceptable kind of an object');
  });
  test('lists what it has or is refused', () => {
    expect(() => card({ kinds: ['cos', undefined] })).toThrow('unacceptable kind of an object');
  });
  test('is left out of its drawer when it cannot be printed', () => {
    expect(drawer([{ name: 'cos' }, () => 1, { name: 'oak' }])).toBe('- name: cos\n- name: oak\n');
  });
  test('keeps its order', () => {
    expect(card({ b: 1, a: 2 })).toBe('b: 1\na: 2\n');
  });
  test('is short', () => {
    expect(label({ name: 'cos', shelf: 3 })).toBe('name: cos');
  });
});
