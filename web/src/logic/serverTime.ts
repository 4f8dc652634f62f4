/** The page's steady clock, and how the server is asked for its time. */
export interface TimeSource {
  steady_ms: () => number;
  /** what stands in until the server has said anything: when the steady clock began */
  origin_ms: number;
  ask: () => Promise<number>;
}

const ASK_AGAIN_MS = 5 * 60_000;
const QUESTIONS = 5;

/**
 * The server's clock against this page's steady one: of several short questions the one with the quickest answer is the truest,
 * and the truth lies in the middle of its way. Until one has come, what other answers say stands in.
 */
export function createServerTime(source: TimeSource) {
  let ahead: number | null = null;
  let measured = false;
  let asked = Number.NEGATIVE_INFINITY;
  return {
    now: () => (ahead ?? source.origin_ms) + source.steady_ms(),
    /** Another answer said what time it was when it was sent: the latest of those is nearest. */
    learn(now_ms: number): void {
      if (!measured) ahead = Math.max(ahead ?? Number.NEGATIVE_INFINITY, now_ms - source.steady_ms());
    },
    async measure(): Promise<void> {
      if (source.steady_ms() - asked < ASK_AGAIN_MS) return;
      asked = source.steady_ms();
      let quickest = Number.POSITIVE_INFINITY;
      for (let i = 0; i < QUESTIONS; i++) {
        const sent = source.steady_ms();
        try {
          const now_ms = await source.ask();
          const took = source.steady_ms() - sent;
          if (took < quickest) {
            quickest = took;
            measured = true;
            ahead = now_ms - (sent + took / 2);
          }
        } catch {
          return; // away: what is known stands
        }
      }
    },
  };
}
