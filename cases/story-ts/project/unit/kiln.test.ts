import { Bale } from 'hopper';
import { describe, expect, it } from 'vitest';
import { hour, morning, overnight } from '../src/kiln';

describe('kiln', () => {
  it('dries for an hour', () => expect(hour(new Bale(60)).kilos).toBe(57));
  it('dries over night', () => expect(overnight(new Bale(60)).kilos).toBe(39.8));
  it('grades in the morning', () => expect(morning(new Bale(80))).toBe('B'));
});
