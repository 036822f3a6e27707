const seedbank = require("seedbank");

exports.rate = (sown, up) => `${seedbank.germination(sown, up)} %`;
exports.name = (name) => seedbank.latin(name);
exports.codes = () => seedbank.codes.list().join("");
exports.read = (line) => seedbank.parse(line);
exports.settings = (own) => seedbank.merge({ rows: 10, deep: false }, own);
exports.vault = () => new seedbank.Vault(10);
