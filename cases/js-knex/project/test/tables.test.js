'use strict';

const assert = require('assert');
const tables = require('../src/tables');

describe('tables', () => {
  it('have a key beside them', () => {
    assert.deepStrictEqual(tables.order(), ['create table "order" ("id" integer, "line" integer)', 'alter table "order" add constraint "order_key" primary key ("id", "line")']);
  });

  it('keep hours to the thousandth', () => {
    assert.deepStrictEqual(tables.bed(), ['create table "bed" ("plant" varchar(255), "watered" timestamp(3))']);
  });

  it('have settings', () => {
    assert.deepStrictEqual(tables.settings(), ['create table "settings" ("value" json {"open":true})']);
  });

  it('are shown', () => {
    assert.deepStrictEqual(tables.shown(), ["create table `shown` (`plant` varchar(255), `fresh` boolean default '0')"]);
  });
});
