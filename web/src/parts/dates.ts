import { counted } from "./counted";
/** How days are written. No date arithmetic of the job happens here: days to go come from the server. */
function formats(locale: string) {
  const format = (how: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(locale, { timeZone: "UTC", ...how });
  return {
    long: format({ weekday: "long", day: "numeric", month: "long" }),
    short: format({ weekday: "short", day: "numeric", month: "short" }),
    dayMonth: format({ day: "numeric", month: "short" }),
    withYear: format({ day: "numeric", month: "short", year: "numeric" }),
  };
}
const DAY_FIRST = formats("en-GB");
const MONTH_FIRST = formats("en-US");
let order = DAY_FIRST;

/** From now on days are written as whoever is signed in reads them: "4 Nov", or "Nov 4" where the month comes first. */
export function writeDays(dayOrder: string): void {
  order = dayOrder === "month first" ? MONTH_FIRST : DAY_FIRST;
}

function at(day: string): Date {
  return new Date(`${day}T00:00:00Z`);
}

export function longDay(day: string): string {
  return order.long.format(at(day)).replace(",", "");
}
export function shortDay(day: string): string {
  return order.short.format(at(day)).replace(",", "");
}
export function dayMonth(day: string): string {
  return order.dayMonth.format(at(day));
}
export function dayYear(day: string): string {
  return order.withYear.format(at(day));
}
const MONTH = new Intl.DateTimeFormat("en-GB", { month: "long", year: "numeric", timeZone: "UTC" });
const SHORT_MONTH = new Intl.DateTimeFormat("en-GB", { month: "short", timeZone: "UTC" });
/** "December 2026", or "Dec" where there is little room. */
export function monthName(day: string, short = false): string {
  return (short ? SHORT_MONTH : MONTH).format(at(day));
}
/** How far a date is from today: "in 44 days", "tomorrow", "3 days ago". */
export function inDays(days: number): string {
  if (days === 0) return "today";
  if (days === 1) return "tomorrow";
  return days > 0 ? `in ${days} days` : days === -1 ? "yesterday" : `${-days} days ago`;
}
/** How far a day of the plan is from its competition: "37 days to the competition", or "37 d" where there is little room. */
export function toCompetition(days: number, short = false): string {
  if (days === 0) return "competition day";
  const count = short ? `${Math.abs(days)} d` : counted(Math.abs(days), "day");
  if (days < 0) return `${count} after`;
  return short ? count : `${count} to the competition`;
}
/** "Thu 12 Mar · in 23 days" */
export function dated(day: string, days: number): string {
  return `${shortDay(day)} · ${inDays(days)}`;
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
const MOMENT = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
/** A moment as the clock on the wall has it here: "Sat 28 Nov, 13:05". */
export function moment(iso: string): string {
  const parts = Object.fromEntries(MOMENT.formatToParts(new Date(iso)).map((p) => [p.type, p.value]));
  const day = order === MONTH_FIRST ? `${parts.month} ${parts.day}` : `${parts.day} ${parts.month}`;
  return `${parts.weekday} ${day}, ${parts.hour}:${parts.minute}`;
}
/** What a session of the week is called: "Day 1" for its key A; other names stand as they are. */
export function dayName(key: string): string {
  return /^[A-Z]$/.test(key) ? `Day ${key.charCodeAt(0) - 64}` : key;
}

const WEEKDAY = new Intl.DateTimeFormat("en-GB", { weekday: "short", timeZone: "UTC" });
/** The day of the week of a day, short. */
export function weekdayOf(day: string): string {
  return WEEKDAY.format(at(day));
}
