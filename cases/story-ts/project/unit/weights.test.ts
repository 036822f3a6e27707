import { Bale } from 'hopper';
import { describe, expect, it } from 'vitest';
import { apart, both, heaviest, light, load, shown } from '../src/weights';

describe('weights', () => {
  const bales = [new Bale(60), new Bale(40)];
  it('finds the heaviest', () => expect(heaviest(bales)).toBe(132));
  it('adds up a load', () => expect(load(bales)).toBe(220));
  it('knows what one can carry', () => expect(light(new Bale(40))).toBe(true));
  it('writes both units', () => expect(both(new Bale(50))).toBe('50 kg, 110 lb'));
  it('tells bales apart', () => expect(apart(bales[0], bales[1])).toBe(44));
  it('shows halves', () => expect(shown(48.4)).toBe('48.5'));
  it('shows nothing for an empty scale', () => expect(shown(0)).toBe(''));
});
