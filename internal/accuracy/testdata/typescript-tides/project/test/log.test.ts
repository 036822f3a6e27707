import * as assert from "node:assert/strict";
import { crew, entryFor, gauge } from "../src/log";
import { gates, under, swing, dryAt } from "../src/passages";
import { bar } from "../src/stations";

const day = new Date("2031-05-04T00:00:00Z");

describe("log", () => {
  it("reads a gauge", () => assert.equal(gauge("06:00 3.4"), 3.4));
  it("reads a gauge with a comma", () => assert.equal(gauge("06:00 3,4"), 3.4));
  it("reads a gauge with its unit", () => assert.equal(gauge("06:00 3.4m"), 3.4));
  it("writes an entry", () => assert.equal(entryFor(day), "2031-05-04 high water 4.4 m"));
  it("wants three at springs", () => assert.equal(crew(day), 3));
  it("has a moon", () => assert.equal(crew(new Date("2031-05-20T00:00:00Z")), 4));
});

describe("passages", () => {
  it("clears the sill", () => assert.ok(under(1, { name: "Tern", draught: 2 }, bar, day) > 1));
  it("finds gates", () => assert.equal(gates({ name: "Tern", draught: 2 }, bar, day).length, 2));
  it("swings", () => assert.equal(swing(bar, day).toFixed(1), "3.3"));
  it("stays afloat", () => assert.equal(dryAt(bar, day), false));
});
