'use strict';

const { shop } = require('./db');

// What the shop shows of one kind.
function kind(filter) {
  return shop('shown').where('kind', filter);
}

// Puts a plant on show.
function show(plant, label) {
  return shop('shown').insert({ plant, label });
}

// Takes plants off that have no bed.
function clear() {
  return shop('shown').join('bed', 'shown.bed', 'bed.id').where('bed.empty', true).del();
}

// The plants from a place on.
function from(place) {
  return shop('shown').select('plant').offset(place);
}

module.exports = { kind, show, clear, from };
