const seedbank = require("seedbank");
const catalogue = require("../src/catalogue");
const { watch } = require("../src/shelf");

test("rate of a third", () => expect(catalogue.rate(30, 10)).toBe("33 %"));
test("rate of two thirds", () => expect(catalogue.rate(30, 20)).toBe("67 %"));
test("rate of a half", () => expect(catalogue.rate(30, 15)).toBe("50 %"));
test("latin name", () => expect(catalogue.name("papaver RHOEAS")).toBe("Papaver rhoeas"));
test("latin genus", () => expect(catalogue.name("pisum")).toBe("Pisum"));
test("codes", () => expect(catalogue.codes()).toBe("ABC"));
test("codes are three", () => expect(catalogue.codes()).toHaveLength(3));
test("reads a line", () => expect(catalogue.read("leek;30;2030").count).toBe(30));
test("reads a line without a year", () => expect(catalogue.read("leek;30").count).toBe(30));
test("reads a bare name", () => expect(catalogue.read("leek").species).toBe("leek"));
test("settings of our own win", () => expect(catalogue.settings({ rows: 4 })).toEqual({ rows: 4, deep: false }));
test("settings may be deep", () => expect(catalogue.settings({ deep: true }).deep).toBe(true));
test("an empty vault has no oldest", () => expect(catalogue.vault().oldest()).toBeNull());
test("watches", () => {
  const list = [];
  watch(catalogue.vault(), list).store({ species: "leek", count: 1, label: () => "leek" });
  expect(list).toEqual(["leek"]);
});
test("watches a second shelf", () => {
  expect(() => watch(catalogue.vault(), [])).not.toThrow();
});
test("stores and calls back", (done) => {
  catalogue.vault().store({ species: "leek", count: 1 }, (err, n) => {
    expect(n).toBe(1);
    done();
  });
}, 300);
test("counts after two", (done) => {
  const vault = catalogue.vault().store({ species: "leek", count: 1 }).store({ species: "pea", count: 2 });
  expect(vault.total()).toBe(3);
  done();
});
test("exports", () => expect(catalogue.vault().export()).toEqual([]));
test("exports two", () => expect(new seedbank.Vault(2).export()).toHaveLength(0));
test("weather", () => expect(process.env.SEED_WEATHER).toBe("dry"));
