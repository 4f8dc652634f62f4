import { scaleTime } from "d3-scale";

export const W = 956;
export const LEFT = 128;
export const RIGHT = 14;
export const DAY_MS = 86_400_000;

export function utc(day: string): number {
  return Date.parse(`${day}T00:00:00Z`);
}

export function iso(ms: number): string {
  return new Date(ms).toISOString().slice(0, 10);
}

export type Scale = ReturnType<typeof axis>;

/** Days to pixels of the chart; what lies outside is drawn at its edges. */
export function axis(from: number, to: number) {
  return scaleTime([from, to], [LEFT, W - RIGHT]).clamp(true);
}

const TICK_ROOM = 44; // what "30 Nov" takes at the size of the axis

/** Where the words of a tick stand: behind it, or before it where the chart ends. */
export function besideTick(x: number, gap: number): { x: number; textAnchor: "start" | "end" } {
  return x + TICK_ROOM > W ? { x: x - gap, textAnchor: "end" } : { x: x + gap, textAnchor: "start" };
}
