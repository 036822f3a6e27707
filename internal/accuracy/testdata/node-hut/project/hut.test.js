const test = require("node:test");
const assert = require("node:assert/strict");
const book = require("./book.js");

const url = "http://127.0.0.1:8399";
const ask = async (path) => (await fetch(url + path)).json();

test("has no guests at first", async () => assert.equal(await ask("/guests"), 0));
test("has twelve beds", async () => assert.equal(await ask("/beds"), 12));
test("tells the weather", async () => assert.equal(await ask("/weather"), "clear"));
test("tells its height", async () => assert.equal(await ask("/height"), 2304));
test("knows no other page", async () => assert.equal(await ask("/kitchen"), null));
test("answers twice", async () => assert.deepEqual([await ask("/guests"), await ask("/guests")], [0, 0]));
test("answers in JSON", async () => assert.equal(typeof (await ask("/beds")), "number"));
test("counts beds and guests together", async () => assert.equal((await ask("/beds")) + (await ask("/guests")), 12));
test("is above the tree line", async () => assert.ok((await ask("/height")) > 2000));
test("stays open", async () => assert.ok((await fetch(url + "/weather")).ok));

test("stays at its height", async () => assert.ok((await ask("/height")) < 3000));
test("has room", async () => assert.ok((await ask("/beds")) > 0));
test("answers a head request", async () => assert.equal((await fetch(url + "/beds", { method: "HEAD" })).status, 200));

test("books guests", () => assert.equal(book.guests(["Ann", "Bo"]), 2));
test("books one", () => assert.equal(book.guests(["Ann"]), 1));
test("bills a member", () => assert.equal(book.bill(2, true), "24.00"));
test("bills a member's night", () => assert.equal(book.bill(1, true), "12.00"));
test("bills a stranger", () => assert.equal(book.bill(2, false), "40.00"));
test("books nobody", () => assert.equal(book.guests([]), 0));
test("books a family", () => assert.equal(book.guests(["Ann", "Bo", "Cy"]), 3));
test("climbs far", () => assert.equal(book.hours(2400), 6));
test("climbs", () => assert.equal(book.hours(1200), 3));
test("climbs slowly", () => assert.equal(book.hours(400), 1));
test("lays tables", () => assert.deepEqual(book.tables(3), [1, 2, 3]));
test("lays one table", () => assert.deepEqual(book.tables(1), [1]));
test("rests in winter", () => assert.equal(book.winter(), 0));
test("knows the night", () => assert.equal(book.night(new Date(0)), "1970-01-02"));
