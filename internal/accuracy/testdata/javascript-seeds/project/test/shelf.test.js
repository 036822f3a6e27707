const shelf = require("../src/shelf");

describe("shelf", () => {
  let poppy;
  beforeEach(() => {
    poppy = shelf.packet("poppy", 200, 2028);
  });
  test("labels a packet", () => expect(shelf.tag(poppy)).toBe("poppy x200"));
  test("gives some away", () => expect(shelf.give(poppy, 50)).toBe("50/150"));
  test("tells old seed", () => expect(shelf.old(poppy, 2035)).toBe(true));
  test("tells young seed", () => expect(shelf.old(poppy, 2030)).toBe(false));
  test("keeps good seed", () => expect(shelf.good(poppy, 2031)).toBe(true));
});

describe("filled shelf", () => {
  test("counts", () => expect(shelf.fill(["leek;30;2030", "pea;12;2029"]).total()).toBe(42));
  test("finds", () => expect(shelf.fill(["leek;30;2030"]).find("leek")).toHaveLength(1));
  test("knows the oldest", () => expect(shelf.fill(["leek;30;2030", "pea;12;2029"]).oldest().species).toBe("pea"));
});

describe("drying", () => {
  test("fast", () => expect(shelf.dry(23)).toBe(2));
  test("slow", () => expect(shelf.dry(55)).toBe(10));
});
