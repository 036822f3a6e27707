import { weigh } from 'hopper';
import { sheet } from './day.js';
import { both } from './weights.js';

const bales = [weigh(61.2), weigh(48.4)];
console.log(sheet('1 September', bales).join('\n'));
console.log(bales.map(both).join('\n'));
