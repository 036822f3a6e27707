import assert from 'node:assert/strict';
import { Bale } from 'hopper';
import { sheet } from '../src/day.js';
import { morning } from '../src/kiln.js';
import { both, shown } from '../src/weights.js';

describe('the desk', () => {
  it('hangs a ticket on a bale', () => {
    assert.equal(sheet('1 May', [new Bale(60)])[1], 'Golding 60 kg');
  });
  it('writes half kilos', () => {
    assert.equal(sheet('1 May', [new Bale(60.5, 'Fuggle')])[1], 'Fuggle 60.5 kg');
  });
  it('grades', () => {
    assert.equal(morning(new Bale(99)), 'A');
  });
  it('tells both units', () => {
    assert.equal(both(new Bale(10)), '10 kg, 22 lb');
  });
  describe('at the end of a day', () => {
    it('has a sheet of three lines', () => {
      assert.equal(sheet('1 May', [new Bale(1)]).length, 3);
    });
    it('rounds to the half', () => {
      assert.equal(shown(7.3), '7.5');
    });
  });
});
