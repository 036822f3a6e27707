import * as assert from "node:assert/strict";
import { line, next, pages, marks } from "../src/board";
import { bar, basin, nameOf, open } from "../src/stations";
import { tidesOf, Tide } from "tidebook";

const day = new Date("2031-05-04T00:00:00Z");
const high = { at: day, height: 4.4, kind: "high", type: "high" } as unknown as Tide;

describe("board", () => {
  it("writes a line", () => assert.equal(line(bar, high), "The Bar: high water 4.4 m"));
  it("writes the basin's line", () => assert.equal(line(basin, high), "Inner Basin: high water 4.4 m"));
  it("tells the next tide", () => assert.equal(next(bar, day), "high at 03:00"));
  it("prints pages", () => assert.equal(pages(2031, [bar, basin], [day]).length, 2));
  it("counts the stations", () => assert.equal(pages(2031, [bar], []).at(-1), "1 stations"));
  it("marks tides", () => assert.deepEqual(marks(bar, day), ["H", "L", "H", "L"]));
  it("knows four tides a day", () => assert.equal(tidesOf(bar, day).length, 4));
});

describe("stations", () => {
  before(() => open());
  it("names the bar", () => assert.equal(nameOf("bar"), "The Bar"));
  it("names a visitor's berth by its id", () => assert.equal(nameOf("quay-9"), "quay-9"));
  it("names an old berth by its id", () => assert.equal(nameOf("quay-2"), "quay-2"));
});
