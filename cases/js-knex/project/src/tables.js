'use strict';

const { orders, shop } = require('./db');

function text(builder) {
  return builder.toString().split('\n').map((line) => line.replace(/;$/, ''));
}

// The table of orders.
function order() {
  return text(orders.schema.createTable('order', (t) => {
    t.integer('id');
    t.integer('line');
    t.primary(['id', 'line'], 'order_key');
  }));
}

// The table of beds, with the hour of watering.
function bed() {
  return text(orders.schema.createTable('bed', (t) => {
    t.string('plant');
    t.datetime('watered', { precision: 3 });
  }));
}

// The table of settings.
function settings() {
  return text(orders.schema.createTable('settings', (t) => {
    t.json('value').defaultTo({ open: true });
  }));
}

// The table of what the shop shows.
function shown() {
  return text(shop.schema.createTable('shown', (t) => {
    t.string('plant');
    t.boolean('fresh').defaultTo(false);
  }));
}

module.exports = { order, bed, settings, shown };
