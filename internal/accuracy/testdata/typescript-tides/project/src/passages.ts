import { clearance, highWater, lowWater, range, window, Station, Tide, tidesOf } from "tidebook";

export interface Ship { name: string; draught: number }

export function under(sill: number, ship: Ship, station: Station, day: Date): number {
  return clearance(sill, highWater(station, day)) - ship.draught;
}

export function gates(ship: Ship, station: Station, day: Date): string[] {
  const tides = tidesOf(station, day, { zone: "UTC" });
  return window(tides, ship.draught, 0.5).map(([from, to]) => `${from.toISOString()} to ${to.toISOString()}`);
}

export function swing(station: Station, day: Date): number {
  return range(highWater(station, day), lowWater(station, day));
}

export function dryAt(station: Station, day: Date): boolean {
  const low: Tide = lowWater(station, day);
  return low.kind === "low" && clearance(0.5, low) < 0;
}

export function mudBerth(sill: number, ship: Ship, station: Station, day: Date): boolean {
  let depth = clearance(sill, lowWater(station, day));
  return depth < ship.draught;
}
