import { useState } from "react";

import type { Floor, FloorLine } from "../../api/hooks";
import { AdvicePanel } from "./AdvicePanel";
import { DoneSets } from "./DoneSets";
import { PainNotes } from "./PainNotes";
import type { Live } from "./useFloor";
import { NO_ADVICE, useIsAhead } from "./waiting";

interface SideProps {
  floor: Floor;
  line: FloorLine | undefined;
  live: Live;
  run: (work: Promise<unknown>) => Promise<unknown>;
  onInstead: (lineId: number, exerciseId: string) => Promise<unknown>;
}

/** What is advised, and what was done of an exercise. */
export function Side({ floor, line, live, run, onInstead }: SideProps) {
  const [shown, setShown] = useState<number | null>(null);
  const isAhead = useIsAhead(floor.id);
  const stopped = floor.lines.filter((l) => l.ended && l.sets.some((s) => s.kind === "work" && !s.done)).at(-1);
  // lines go in turn: what was said after one stands while another is up
  const open = floor.lines.filter((l) => l.advice && l.sets.some((s) => s.kind === "work" && !s.done && !s.over));
  const newest = open.sort((a, b) => (b.advice?.id ?? 0) - (a.advice?.id ?? 0))[0];
  const speaking = newest ?? (line?.advice ? line : stopped);
  const said = line ? [] : floor.lines.filter((l) => l.advice); // at the end what was said last of each, a ladder's record too
  const view = floor.lines.find((l) => l.id === shown) ?? line ?? speaking ?? floor.lines[0];
  return (
    <aside className="floor-side" aria-label="What next and what was done">
      <h2>What next</h2>
      <div className="d-none d-lg-block">
        <PainNotes floor={floor} onInstead={onInstead} />
      </div>
      {speaking?.advice ? (
        <AdvicePanel
          key={speaking.advice.id}
          line={speaking}
          finished={floor.finished}
          onAnswer={(body, adviceId) => run(live.write(`advice/${adviceId}`, body))}
        />
      ) : said.length > 0 ? (
        said.map((l) => (
          <div key={l.id} className="says advice my-1">
            {l.exercise}: {l.advice?.sentence}
          </div>
        ))
      ) : (
        <p className="soft">{isAhead ? NO_ADVICE : "After each work set: up, same, down or done, and why."}</p>
      )}
      {view && (
        <>
          <div className="d-flex align-items-center gap-2 mt-4 mb-1">
            <h2 className="m-0">Done</h2>
            <select
              className="form-select form-select-sm"
              style={{ width: 190, minHeight: 44 }}
              aria-label="Done sets of which exercise"
              value={view.id}
              onChange={(e) => setShown(Number(e.target.value))}
            >
              {floor.lines.map((l) => (
                <option key={l.id} value={l.id}>
                  {l.slot} {l.exercise}
                </option>
              ))}
            </select>
          </div>
          <DoneSets line={view} finished={floor.finished} write={(path, body) => run(live.write(path, body))} />
        </>
      )}
    </aside>
  );
}
