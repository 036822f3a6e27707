import { type Bale, ledger, queue } from 'hopper';
import { heading, ticket } from 'hopper/tickets';

/** The day's sheet. */
export function sheet(day: string, bales: Bale[]): string[] {
  return [heading(day), ...bales.map((b) => ticket(b)), `${ledger(bales).total} kg`];
}

/** The day's average. */
export function average(bales: Bale[]): number {
  return ledger(bales).total / bales.length;
}

/** Who is weighed first. */
export function first(carts: string[]): string {
  return queue(carts)[0] ?? 'nobody';
}
