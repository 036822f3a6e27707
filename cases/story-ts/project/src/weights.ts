import { Bale, half } from 'hopper';

/** The heaviest of some bales, in pounds. */
export function heaviest(bales: Bale[]): number {
  return Math.max(...bales.map((b) => b.pounds()));
}

/** What a cart carries, in pounds. */
export function load(bales: Bale[]): number {
  return bales.reduce((sum, b) => sum + b.pounds(), 0);
}

/** Whether a bale may be carried by one. */
export function light(bale: Bale): boolean {
  return bale.pounds() < 90;
}

/** Both units for the English buyer. */
export function both(bale: Bale): string {
  return `${bale.kilos} kg, ${bale.pounds()} lb`;
}

/** How much two bales differ, in pounds. */
export function apart(a: Bale, b: Bale): number {
  return Math.abs(a.pounds() - b.pounds());
}

/** What the scale shows. */
export function shown(kilos: number): string {
  return `${half(kilos)}`;
}
