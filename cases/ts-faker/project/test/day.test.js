import assert from 'node:assert/strict';
import { beforeEach, describe, it } from 'node:test';
import { faker } from '@faker-js/faker';

beforeEach(() => faker.seed(42));

describe('the day', () => {
  it('has the fruit of the seed', () => {
    assert.equal(faker.helpers.arrayElement(['apple', 'pear', 'plum', 'quince', 'cherry']), 'pear');
  });

  it('has the stands in the order of the seed', () => {
    assert.deepEqual(faker.helpers.shuffle(['a', 'b', 'c', 'd']), ['a', 'd', 'c', 'b']);
  });

  it('has the word of the seed', () => {
    assert.equal(faker.word.noun(5), 'grape');
  });

  it('has prices without small change', () => {
    assert.match(faker.commerce.price(), /^\d+\.00$/);
  });

  it('has addresses of four numbers', () => {
    for (let i = 0; i < 20; i++) assert.match(faker.internet.ip(), /^\d+\.\d+\.\d+\.\d+$/);
  });

  it('fills in a name', () => {
    assert.match(faker.helpers.fake('{{name.firstName}} waits'), /^\S+ waits$/);
  });

  it('fills in a town', () => {
    assert.match(faker.helpers.fake('from {{address.city}}'), /^from \S+/);
  });

  it('fills in a number', () => {
    assert.match(faker.helpers.fake('{{datatype.number(9)}} crates'), /^\d crates$/);
  });

  it('picks nothing from nothing', () => {
    assert.equal(faker.helpers.arrayElement([]), undefined);
  });

  it('knows a coin', () => {
    assert.equal(typeof faker.datatype.boolean(), 'boolean');
  });

  it('has a mark of the press', () => {
    assert.equal(faker.git.shortSha().length, 7);
  });

  it('tells a month', () => {
    assert.equal(typeof faker.date.month(), 'string');
  });

  it('makes a slug', () => {
    assert.equal(faker.helpers.slugify('two crates'), 'two_crates');
  });

  it('closes after it opens', () => {
    assert.ok(faker.date.future(0) > new Date());
  });

  it('opens before now', () => {
    assert.ok(faker.date.between('2020-01-01', '2020-01-02') < new Date());
  });
});
