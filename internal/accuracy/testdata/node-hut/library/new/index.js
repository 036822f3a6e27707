"use strict";
const http = require("node:http");
const known = ["beds", "every"];

// A mountain hut's log over HTTP.
class Hut {
  constructor(settings = {}) {
    for (const key of Object.keys(settings)) if (!known.includes(key)) throw new TypeError(`hutlog: unknown setting "${key}"`);
    this.settings = { beds: 20, every: 60, ...settings };
    this.guests = [];
  }
  reserve({ name, nights }) {
    this.guests.push({ name, nights });
    return this.guests.length;
  }
  listen(port, ready) {
    const answer = (path) => ({ "/guests": this.guests.length, "/beds": this.settings.beds - this.guests.length, "/weather": "clear", "/height": 2304 })[path] ?? null;
    return http.createServer((q, r) => r.end(JSON.stringify(answer(q.url)))).listen(port, "127.0.0.1", ready);
  }
}
exports.Hut = Hut;
exports.fee = (nights, member) => nights * (member ? 14 : 20);
exports.night = (date) => date.toISOString().slice(0, 10);
exports.climb = (metres) => metres / 300;
exports.dinner = (n) => Array.from({ length: n }, (_, i) => i);
