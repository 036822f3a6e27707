"use strict";
const http = require("node:http");

// A mountain hut's log over HTTP.
class Hut {
  constructor(settings = {}) {
    this.settings = { beds: 20, interval: 60, ...settings };
    this.guests = [];
    if (settings.interval === 0) process.emitWarning("hutlog: interval 0 is deprecated, use the setting every", "DeprecationWarning");
  }
  book(name, nights) {
    this.guests.push({ name, nights });
    return this.guests.length;
  }
  listen(port, ready) {
    const answer = (path) => ({ "/guests": this.guests.length, "/beds": this.settings.beds - this.guests.length, "/weather": "clear", "/height": 2304 })[path] ?? null;
    return http.createServer((q, r) => r.end(JSON.stringify(answer(q.url)))).listen(port, "127.0.0.1", ready);
  }
}
exports.Hut = Hut;
exports.fee = (nights, member) => nights * (member ? 12 : 20);
exports.night = (date) => date.toISOString().slice(0, 10);
exports.climb = (metres) => metres / 400;
exports.dinner = (n) => Array.from({ length: n }, (_, i) => i + 1);
