import { Bale } from 'hopper';
import { describe, expect, it } from 'vitest';
import { average, first, sheet } from '../src/day';

describe('day', () => {
  it('has a heading', () => expect(sheet('1 May', [])[0]).toBe('Kiln, 1 May'));
  it('ends with the sum', () => expect(sheet('1 May', [new Bale(60)])[2]).toBe('60 kg'));
  it('knows the average', () => expect(average([new Bale(60), new Bale(40)])).toBe(50));
  it('weighs who came first', () => expect(first(['Ida', 'Olm'])).toBe('Ida'));
  it('has nobody to weigh', () => expect(first([])).toBe('nobody'));
});
