import { addStation, stationOf, Station } from "tidebook";

export const bar: Station = { id: "bar", name: "The Bar", offset: 0.2 };
export const basin: Station = { id: "basin", name: "Inner Basin", offset: -0.1 };

export function open(): void {
  addStation(bar);
  addStation(basin);
}

export function nameOf(id: string): string {
  return stationOf(id).name;
}
