const { packet, packets, write } = require('../src/packets');

describe('a packet', () => {
  const sheet = 'name: Painted Lady\nsown: 2021-04-02\ndepth: 0.05\nshelf: 7\n';

  test('has the name on its sheet', () => {
    expect(packet(sheet).name).toBe('Painted Lady');
  });
  test('was sown on a day', () => {
    expect(packet(sheet).sown.getUTCDate()).toBe(2);
  });
  test('lies on a shelf', () => {
    expect(packet(sheet).shelf).toBe(7);
  });
  test('has no days before it is sown', () => {
    expect(packet('name: Cress').days).toEqual([]);
  });
  test('is one of many', () => {
    expect(packets('name: Cress\n---\nname: Dill\n')).toEqual(['Cress', 'Dill']);
  });
  test('is none where the sheet is bare', () => {
    expect(packets('---\n')).toEqual([]);
  });
  test('is written on short lines', () => {
    expect(write({ name: 'Cress', depth: 0.01 })).toBe('name: Cress\ndepth: 0.01\n');
  });
  test('is written with its days', () => {
    expect(write({ days: [3, 9] })).toBe('days:\n  - 3\n  - 9\n');
  });
});
