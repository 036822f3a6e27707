'use strict';

const assert = require('assert');
const orders = require('../src/orders');

describe('orders', () => {
  it('are paged', () => {
    assert.strictEqual(orders.page(20, 10).toString(), 'select "id", "plant" from "order" order by "id" asc limit 10 offset 20');
  });

  it('are paged by what the address says', () => {
    assert.strictEqual(orders.page('20', 10).toString(), 'select "id", "plant" from "order" order by "id" asc limit 10 offset \'20\'');
  });

  it('have no page before the first', () => {
    assert.strictEqual(orders.page(-10, 10).toString(), 'select "id", "plant" from "order" order by "id" asc limit 10 offset -10');
  });

  it('are of plants that grow', () => {
    assert.strictEqual(orders.plants().toString(), 'select "plant" from "order" union all (select "plant" from "bed")');
  });

  it('come from customers and guests', () => {
    assert.strictEqual(orders.customers().toString(), 'select "name" from "customer" union (select "name" from "guest")');
  });

  it('go with their customer', () => {
    assert.strictEqual(orders.dropGone().toString(), 'delete from "order" where "customer"."gone" = true');
  });

  it('keep remarks', () => {
    assert.strictEqual(orders.add('rose', { gift: 1 }).toString(), 'insert into "order" ("plant", "remarks") values (\'rose\', {"gift":1})');
  });

  it('have no remarks', () => {
    assert.strictEqual(orders.add('rose', null).toString(), 'insert into "order" ("plant", "remarks") values (\'rose\', NULL)');
  });

  it('are of somebody', () => {
    assert.throws(() => orders.of(undefined).toString(), {
      message: 'Undefined binding(s) detected when compiling SELECT query: select * from "order" where "customer" = ?',
    });
  });

  it('are marked with something', () => {
    assert.throws(() => orders.mark(7, {}).toString(), {
      message: 'Empty .update() call detected! Update data does not contain any values to update. This will result in a faulty query.',
    });
  });

  it('are marked', () => {
    assert.strictEqual(orders.mark(7, { state: 'paid' }).toString(), 'update "order" set "state" = \'paid\' where "id" = 7');
  });

  it('are in none of the states', () => {
    assert.strictEqual(orders.without(['paid']).toString(), 'select * from "order" where not "state" in (\'paid\')');
  });

  it('can be shouted', () => {
    assert.strictEqual(typeof orders.shouted().then, 'function');
  });

  it('have a sum', () => {
    assert.strictEqual(typeof orders.sum().then, 'function');
  });

  it('can be watched', () => {
    assert.strictEqual(typeof orders.watched(() => {}).then, 'function');
  });

  it('stand beside each other', () => {
    assert.strictEqual(typeof orders.both(() => {}).then, 'function');
  });

  it('are never negative', () => {
    assert.strictEqual(orders.mark(7, { euro: -1 }).toString(), 'update "order" set "euro" = 0 where "id" = 7');
  });
});
