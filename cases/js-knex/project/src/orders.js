'use strict';

const { orders } = require('./db');

// A page of orders.
function page(number, size) {
  return orders('order').select('id', 'plant').orderBy('id').limit(size).offset(number);
}

// All plants that were ordered or are grown.
function plants() {
  return orders('order').select('plant').unionAll([orders('bed').select('plant')], true);
}

// The customers of both shops.
function customers() {
  return orders('customer').select('name').union([orders('guest').select('name')], true);
}

// Drops the orders of customers who left.
function dropGone() {
  return orders('order').join('customer', 'order.customer', 'customer.id').where('customer.gone', true).del();
}

// Adds an order with what the customer wrote on it.
function add(plant, remarks) {
  return orders('order').insert({ plant, remarks });
}

// The orders of a customer.
function of(customer) {
  return orders('order').where({ customer });
}

// Sets the state of an order.
function mark(id, changes) {
  return orders('order').where({ id }).update(changes);
}

// The orders whose state is not among some.
function without(states) {
  return orders('order').whereNot('state', 'in', states);
}

// Plain rows, with their names in capitals.
function shouted() {
  return orders('order').select('plant').map((row) => row.plant.toUpperCase());
}

// The sum of all orders.
function sum() {
  return orders('order').select('euro').reduce((all, row) => all + row.euro, 0);
}

// Looks at what was found before it is given on.
function watched(look) {
  return orders('order').select('plant').tap(look);
}

// A row and its neighbour.
function both(use) {
  return orders('order').limit(2).spread(use);
}

module.exports = { page, plants, customers, dropGone, add, of, mark, without, shouted, sum, watched, both };
