/** The server's clock on this page. */
import { createServerTime } from "../logic/serverTime";

async function ask(): Promise<number> {
  const answer = (await (await fetch("/api/now", { cache: "no-store" })).json()) as { now_ms: number };
  return answer.now_ms;
}

export const serverTime = createServerTime({ steady_ms: () => performance.now(), origin_ms: performance.timeOrigin, ask });
