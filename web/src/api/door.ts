/** The question that is asked where a sign-in has ended while its pages were open: once, however much was on its way. */
type Watcher = () => void;

const OPEN_TO_ALL = ["/api/me", "/api/sign-in", "/api/sign-out", "/api/rack-links/", "/api/ready/", "/api/welcome/"];

const LEAVE_ALONE_MS = 300_000;

let wasIn = false;
let declined_ms = Number.NEGATIVE_INFINITY;
let asked: { wait: Promise<boolean>; answer: (goesOn: boolean) => void } | null = null;
const watchers = new Set<Watcher>();

function put(question: typeof asked): void {
  asked = question;
  for (const tell of watchers) tell();
}

export const door = {
  /** Whether an address is one that needs a sign-in, and somebody had signed in here. */
  isOurs: (path: string): boolean => wasIn && !OPEN_TO_ALL.some((open) => path === open || (open.endsWith("/") && path.startsWith(open))),
  /** Whether a reading may ask: not for some minutes after somebody has said "not now". */
  mayAsk: (): boolean => performance.now() - declined_ms > LEAVE_ALONE_MS,
  ask: (): Promise<boolean> => {
    if (!asked) {
      let answer: (goesOn: boolean) => void = () => undefined;
      const wait = new Promise<boolean>((resolve) => (answer = resolve));
      put({ wait, answer });
      return wait;
    }
    return asked.wait;
  },
  /** Somebody is signed in, or nobody is. */
  opened: (signedIn: boolean): void => {
    wasIn = signedIn;
  },
  answer: (goesOn: boolean): void => {
    const question = asked;
    if (!question) return;
    if (!goesOn) declined_ms = performance.now();
    put(null);
    question.answer(goesOn);
  },
  isAsked: (): boolean => asked !== null,
  watch: (tell: Watcher): (() => void) => {
    watchers.add(tell);
    return () => watchers.delete(tell);
  },
};
