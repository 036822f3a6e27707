import { describe as tell, nearest, Almanac, Station, Tide, tidesOf } from "tidebook";

export function line(station: Station, tide: Tide): string {
  return `${station.name}: ${tell(tide, { digits: 1 })}`;
}

export function next(station: Station, now: Date): string {
  const tide = nearest(tidesOf(station, now), now);
  return `${tide.kind} at ${tide.at.toISOString().slice(11, 16)}`;
}

export function pages(year: number, stations: Station[], days: Date[]): string[] {
  const almanac = new Almanac(year, stations);
  return days.map((d) => almanac.page(d)).concat(`${almanac.stationCount()} stations`);
}

export function marks(station: Station, day: Date): string[] {
  return tidesOf(station, day, { zone: "Atlantic/Azores" }).map((t) => (t.kind === "high" ? "H" : "L"));
}

export const noon = (day: Date): string => day.toISOString().slice(0, 10) + 12;
export const roundUp = (n: number): string => Math.ceil(n);
