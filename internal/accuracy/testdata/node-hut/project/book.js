const { Hut, fee, night, climb, dinner } = require("../hutlog");

exports.guests = (names) => {
  const hut = new Hut({ beds: 8 });
  names.forEach((n) => hut.book(n, 1));
  return hut.guests.length;
};
exports.bill = (nights, member) => `${fee(nights, member)}.00`;
exports.night = night;
exports.hours = (metres) => climb(metres);
exports.tables = (n) => dinner(n);
exports.winter = () => new Hut({ interval: 0 }).settings.interval;
