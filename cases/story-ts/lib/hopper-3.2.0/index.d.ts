export declare class Bale {
  constructor(kilos: number, sort?: string);
  readonly kilos: number;
  readonly sort: string;
  pounds(): number;
}
export type Grade = 'A' | 'B' | 'C';
export declare function grade(bale: Bale): Grade;
export declare function dry(bale: Bale, hours: number): Bale;
export interface Ledger {
  bales: Bale[];
  total: number;
}
export declare function ledger(bales: Bale[]): Ledger;
export declare function queue(carts: string[]): string[];
export declare function half(kilos: number): number;
export declare function weigh(kilos: number): Bale;
