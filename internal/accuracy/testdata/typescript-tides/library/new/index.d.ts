export interface Tide { at: Date; height: number; type: "high" | "low" }
export interface Options { unit?: "m" | "ft"; timeZone?: string }
export interface Station { id: string; name: string; offset: number; port: string }
export function highTide(station: Station, day: Date): Tide;
export function lowTide(station: Station, day: Date): Tide;
export function tidesOf(station: Station, days: { from: Date; to: Date }, options?: Options): Tide[];
export function depthOver(sill: number, tide: Tide): number;
export function describe(tide: Tide, options?: Options): string;
export function parseHeight(text: string): number;
export function nearest(tides: Tide[], at: Date): Tide | undefined;
export function window(tides: Tide[], vessel: { draught: number; margin: number }): [Date, Date][];
export function addStation(station: Station): Promise<void>;
export function stationOf(id: string): Station;
export function isSpring(day: Date): boolean;
export class Almanac { constructor(options: { year: number; stations: Station[] }); page(day: Date): string; readonly stationCount: number; }
