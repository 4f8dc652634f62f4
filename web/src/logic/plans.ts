/** Up to which act this page has read each plan, so that a change never writes over one that nobody here has seen. */
export interface Plans {
  /** An answer about an address held a plan up to an act. */
  heard: (path: string, act: string | null) => void;
  /** Something is being typed: what was seen when it was begun counts until it is sent. */
  typed: () => void;
  nothingTyped: () => void;
  /** What a page at an address has seen of its plan; nothing where it is of no one plan or none was read. */
  seenOn: (path: string) => number | null;
}

const ABOUT = /\/(?:export\/|calendar\/)?(athletes?|squads?)\/(\d+)(?:\/|$)/;

/** The plan an address is about: of which athlete or squad. */
export function planOf(path: string): string | null {
  const found = ABOUT.exec(path);
  return found ? `${found[1]!.replace(/s$/, "")}/${found[2]!}` : null;
}

export function keepPlans(): Plans {
  const seen = new Map<string, number>();
  let begun: Map<string, number> | null = null;
  return {
    heard(path, act) {
      const plan = planOf(path);
      const number = act === null ? NaN : Number(act);
      if (plan === null || Number.isNaN(number)) return;
      seen.set(plan, Math.max(number, seen.get(plan) ?? 0));
    },
    typed() {
      begun ??= new Map(seen);
    },
    nothingTyped() {
      begun = null;
    },
    seenOn(path) {
      const plan = planOf(path);
      if (plan === null) return null;
      return begun?.get(plan) ?? seen.get(plan) ?? null;
    },
  };
}
