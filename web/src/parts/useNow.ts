import { useEffect, useState } from "react";

import { serverTime } from "../api/serverTime";

/** The server's time in milliseconds, read anew every so often: everything that shows a running time takes it from here. */
export function useNow(every_ms: number): number {
  const [now, setNow] = useState(() => serverTime.now());
  useEffect(() => {
    void serverTime.measure();
    const timer = setInterval(() => setNow(serverTime.now()), every_ms);
    return () => clearInterval(timer);
  }, [every_ms]);
  return now;
}
