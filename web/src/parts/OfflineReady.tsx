import { useEffect, useState, useSyncExternalStore } from "react";

import { shell } from "../offline/shell";

interface Session {
  athlete_id: number;
  key: string;
  session_id: number | null;
}

const AGAIN_MS = 600_000;
const lately = new Map<string, number>();

/** Reads the sheets of a day once, one after another, so that they open when the network is gone; how many are kept. */
function useSheetsKept(day: string, sessions: Session[], isOn: boolean): number {
  const [kept, setKept] = useState(0);
  const paths = sessions.map((s) =>
    s.session_id === null ? `/api/athletes/${s.athlete_id}/sessions/${day}/${s.key}` : `/api/floor/sessions/${s.session_id}`,
  );
  const all = paths.join(" ");
  useEffect(() => {
    if (!isOn || !all) return;
    const leaving = new AbortController();
    const keep = async () => {
      for (const [n, path] of all.split(" ").entries()) {
        if (performance.now() - (lately.get(path) ?? Number.NEGATIVE_INFINITY) > AGAIN_MS) {
          await fetch(path, { signal: leaving.signal, priority: "low" });
          lately.set(path, performance.now());
        }
        setKept(n + 1);
      }
    };
    void keep().catch(() => undefined);
    return () => leaving.abort();
  }, [all, isOn]);
  return kept;
}

/** Whether this device opens the floor without a network, and, where that is asked, what it would take if it does not. */
export function OfflineReady({ day, sessions, saysWhyNot = false }: { day: string; sessions: Session[]; saysWhyNot?: boolean }) {
  const { shell: stands } = useSyncExternalStore(shell.watch, shell.state);
  const kept = useSheetsKept(day, sessions, stands === "kept");
  if (stands === "plain http" && saysWhyNot) {
    return (
      <p className="note mt-3">
        This page came over plain http. Everything works, and what is logged without a network waits on this device. But the page cannot be
        opened again until the network is back. Served with TLS it can: see “Looking after a centre”.
      </p>
    );
  }
  if (stands !== "kept") return null;
  return (
    <p className="soft mt-3" role="status">
      Opens without a network on this device: the floor
      {sessions.length > 0 && ` and ${kept < sessions.length ? `${kept} of ` : ""}${sessions.length} of today’s sheets`}.
    </p>
  );
}
