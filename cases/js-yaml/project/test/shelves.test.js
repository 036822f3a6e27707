const { shelves, opening, photograph, wishes, borrowers } = require('../src/shelves');

describe('shelves', () => {
  test('are counted by eights', () => {
    expect(shelves('beans: 012\n')).toEqual([{ name: 'beans', place: 10 }]);
  });
  test('of the cellar are counted by eights too', () => {
    expect(shelves('roots: 0017\nbulbs: 020')[1].place).toBe(16);
  });
  test('are named', () => {
    expect(shelves('beans: 12\nherbs: 14\n').map((it) => it.name)).toEqual(['beans', 'herbs']);
  });
  test('are open by the clock', () => {
    expect(opening('opens: 9:30\nshuts: 12:00').minutes).toBe(150);
  });
  test('open at an hour', () => {
    expect(opening('opens: 9:30\nshuts: 12:00').opens).toBe(570);
  });
  test('have a photograph', () => {
    expect(photograph('photograph: !!binary "R0lGOA=="')).toBe('47494638');
  });
  test('have a photograph of nothing', () => {
    expect(photograph('photograph: !!binary "AAE="')).toBe('0001');
  });
  test('leave room for a wish', () => {
    expect(wishes('wishes: [cress,, dill]')).toEqual(['cress', null, 'dill']);
  });
  test('lend to whoever asks', () => {
    expect(borrowers('__proto__: {fine: 3}\nname: Ida').fine).toBe(3);
  });
  test('are never full', () => {
    expect(shelves('beans: 12').length).toBe(0);
  });
});
