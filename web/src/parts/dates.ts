/** How days are written. No date arithmetic of the job happens here: days to go come from the server. */
const LONG = new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", timeZone: "UTC" });
const SHORT = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", timeZone: "UTC" });
const DAY_MONTH = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", timeZone: "UTC" });
const WITH_YEAR = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric", timeZone: "UTC" });

function at(day: string): Date {
  return new Date(`${day}T00:00:00Z`);
}

export function longDay(day: string): string {
  return LONG.format(at(day)).replace(",", "");
}
export function shortDay(day: string): string {
  return SHORT.format(at(day)).replace(",", "");
}
export function dayMonth(day: string): string {
  return DAY_MONTH.format(at(day));
}
export function dayYear(day: string): string {
  return WITH_YEAR.format(at(day));
}
const MONTH = new Intl.DateTimeFormat("en-GB", { month: "long", year: "numeric", timeZone: "UTC" });
const SHORT_MONTH = new Intl.DateTimeFormat("en-GB", { month: "short", timeZone: "UTC" });
/** "December 2026", or "Dec" where there is little room. */
export function monthName(day: string, short = false): string {
  return (short ? SHORT_MONTH : MONTH).format(at(day));
}
export function toGo(days: number): string {
  if (days === 0) return "today";
  return days > 0 ? `${days} to go` : `${-days} ago`;
}
/** "Thu 12 Mar · 23 to go" */
export function dated(day: string, days: number): string {
  return `${shortDay(day)} · ${toGo(days)}`;
}
export function clock(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  const minutes = Math.floor(whole / 60);
  return `${minutes}:${String(whole % 60).padStart(2, "0")}`;
}
export function hour(value: number): string {
  return `${Math.floor(value)}:${String(Math.round((value % 1) * 60)).padStart(2, "0")}`;
}
export function kg(value: number | null | undefined): string {
  return value === null || value === undefined ? "–" : String(Math.round(value * 100) / 100);
}
