/** A number as typed, with a comma or a point; null when nothing stands there, NaN when it is no number. */
export function typedNumber(text: string): number | null {
  const trimmed = text.trim();
  if (!trimmed) return null;
  return /^[-+]?(\d+([.,]\d*)?|[.,]\d+)$/.test(trimmed) ? Number(trimmed.replace(",", ".")) : Number.NaN;
}

/** Several numbers with spaces or semicolons between, each with a comma or a point. */
export function typedNumbers(text: string): number[] {
  return text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((part) => typedNumber(part) ?? Number.NaN);
}

/** Seconds as typed, "6:12" or "372" or "12,4"; null when nothing stands there, NaN when it is no time. */
export function typedSeconds(text: string): number | null {
  const clock = /^\s*(\d{1,3}):([0-5]\d(?:[.,]\d+)?)\s*$/.exec(text);
  return clock ? 60 * Number(clock[1]) + Number(clock[2]?.replace(",", ".")) : typedNumber(text);
}

/** Jumps as typed: heights in cm, and contacts in s in the same order where there are any, parted by blanks or semicolons. */
export function typedJumps(heights: string, contacts: string): { height_cm: number; contact_s: number | null }[] {
  const known = (n: number) => (Number.isNaN(n) ? 0 : n); // the server says in words that nought cannot be
  const touched = typedNumbers(contacts).map(known);
  return typedNumbers(heights).map((h, n) => ({ height_cm: known(h), contact_s: touched[n] ?? null }));
}
