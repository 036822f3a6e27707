'use strict';

const assert = require('assert');
const shelf = require('../src/shelf');

describe('shelf', () => {
  it('shows one kind', () => {
    assert.strictEqual(shelf.kind('rose').toString(), "select * from `shown` where `kind` = 'rose'");
  });

  it('shows a kind by more than its name', () => {
    assert.strictEqual(shelf.kind({ name: 'rose' }).toString(), 'select * from `shown` where `kind` = {"name":"rose"}');
  });

  it('shows labels of many words', () => {
    assert.strictEqual(shelf.show('rose', { de: 'Rose' }).toString(), 'insert into `shown` (`label`, `plant`) values ({"de":"Rose"}, \'rose\')');
  });

  it('is cleared', () => {
    assert.strictEqual(shelf.clear().toString(), 'delete from `shown` where `bed`.`empty` = true');
  });

  it('begins where it is asked to', () => {
    assert.strictEqual(shelf.from('5').toString(), "select `plant` from `shown` limit 18446744073709551615 offset '5'");
  });

  it('does not begin before its start', () => {
    assert.strictEqual(shelf.from(-5).toString(), 'select `plant` from `shown` limit 18446744073709551615 offset -5');
  });

  it('is full', () => {
    assert.strictEqual(shelf.from(0).toString(), 'select `plant` from `shown` limit 100');
  });
});
