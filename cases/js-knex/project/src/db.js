'use strict';

const knex = require('knex');

// The nursery keeps its orders in PostgreSQL, and what the shop shows in MySQL.
const orders = knex({ client: 'pg' });
const shop = knex({ client: 'mysql' });

module.exports = { orders, shop };
