export declare class Bale {
  constructor(kilos: number, sort?: string);
  static of(kilos: number): Bale;
  readonly kilos: number;
  readonly sort: string;
  toPounds(): number;
}
export type Grade = 'A' | 'B' | 'C';
export declare function grade(bale: Bale): Grade | null;
export declare function dry(bale: Bale, options: { hours: number; loss?: number }): Bale;
export interface Ledger {
  bales: Bale[];
  kilos: number;
}
export declare function ledger(bales: Bale[]): Ledger;
export declare function queue(carts: string[]): string[];
export declare function half(kilos: number): number;
/** @deprecated Use `Bale.of`. */
export declare function weigh(kilos: number): Bale;
