'use strict';

const { Promise } = require('knex');
const orders = require('./src/orders');

console.log('open:', orders.without(['paid', 'sent']).toString());
const jobs = [orders.add('rose', null).toString(), orders.of(7).toString()];
Promise.all(jobs).then((done) => console.log('jobs:', done.length));
