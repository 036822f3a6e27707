import type { Bale } from './index.js';
export declare function ticket(bale: Bale): string;
export declare function heading(day: string): string;
