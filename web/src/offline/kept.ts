/** What is kept of the server's answers for when there is no network: what a day on the floor reads, and no more. */
export const READ = "jarvok-read";
export const KEPT_AT = "Jarvok-Kept";

const DAY = String.raw`\d{4}-\d{2}-\d{2}`;
const PATHS = [
  "me",
  "today",
  "today/.+",
  "names",
  "centre",
  "mine.*",
  `athletes/\\d+/sessions/${DAY}/\\w+.*`,
  String.raw`athletes/\d+/week.*`,
  String.raw`floor/sessions/\d+`,
  "room/entries",
  String.raw`room/\d+`,
  String.raw`room/\d+/racks(/\d+(/ahead)?)?`,
  String.raw`room/\d+/(ahead|board|clocks).*`,
  "rack-links/[^/]+",
];
const KEPT = new RegExp(`^/api/(${PATHS.join("|")})$`);

export function isKept(path: string): boolean {
  return KEPT.test(path);
}
