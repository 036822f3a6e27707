export interface Tide { at: Date; height: number; kind: "high" | "low" }
export interface Options { unit?: "m" | "ft"; zone?: string; digits?: number }
export interface Station { id: string; name: string; offset: number }
export function highWater(station: Station, day: Date): Tide;
export function lowWater(station: Station, day: Date): Tide;
export function tidesOf(station: Station, day: Date, options?: Options): Tide[];
/** @deprecated use depthOver */
export function clearance(sill: number, tide: Tide): number;
export function depthOver(sill: number, tide: Tide): number;
export function describe(tide: Tide, options?: Options): string;
export function range(a: Tide, b: Tide): number;
export function isSpring(day: Date): boolean;
export function parseHeight(text: string): number;
export function nearest(tides: Tide[], at: Date): Tide;
export function window(tides: Tide[], draught: number, margin: number): [Date, Date][];
export function addStation(station: Station): void;
export function stationOf(id: string): Station;
export class Almanac { constructor(year: number, stations: Station[]); page(day: Date): string; stationCount(): number; }
