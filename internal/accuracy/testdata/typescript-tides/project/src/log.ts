import { parseHeight, describe as tell, highWater, isSpring } from "tidebook";
import { bar } from "./stations";

export function gauge(entry: string): number {
  return parseHeight(entry.split(" ")[1]);
}

export function entryFor(day: Date): string {
  return `${day.toISOString().slice(0, 10)} ${tell(highWater(bar, day))}`;
}

export function crew(day: Date): number {
  return isSpring(day) ? 3 : 2;
}
