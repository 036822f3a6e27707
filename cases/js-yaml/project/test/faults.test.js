const { fault, shown } = require('../src/faults');

describe('a fault', () => {
  test('is shown by its line', () => {
    expect(fault('name: [cos\nshelf: 3')).toMatch(/in "sheet.yaml" at line 2, column 1:/);
  });
  test('is told of twice', () => {
    expect(fault('name: cos\nname: oak\n')).toBe('duplicated mapping key in "sheet.yaml" at line 2, column 1:');
  });
  test('is no fault', () => {
    expect(fault('name: cos')).toBe('nothing wrong');
  });
  test('shows the piece that is wrong', () => {
    expect(shown('name: cos\nshelf: @3\n')).toBe('shelf: @3\n           ^');
  });
});
