'use strict';

/** The ticket that hangs on a bale. */
exports.ticket = (bale) => `${bale.sort} ${bale.kilos} kg`;
/** The line on top of a day's tickets. */
exports.heading = (day) => `Kiln, ${day}`;
