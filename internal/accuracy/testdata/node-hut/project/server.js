const { Hut } = require("../hutlog");

const hut = new Hut({ beds: 12, interval: 30 });
hut.listen(Number(process.env.PORT ?? 8399), () => console.log("hut: open"));
