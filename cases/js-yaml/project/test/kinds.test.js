const yaml = require('js-yaml');
const { Moon, almanac } = require('../src/kinds');

describe('the moon', () => {
  test('has a phase', () => {
    expect(yaml.load('!moon waning', { schema: almanac })).toEqual(new Moon('waning'));
  });
  test('is written with its phase', () => {
    expect(yaml.dump(new Moon('new'), { schema: almanac })).toBe('!<!moon> new\n');
  });
});
