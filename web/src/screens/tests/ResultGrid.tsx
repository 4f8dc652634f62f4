import { useRef } from "react";

import type { Schemas } from "../../api/client";

export type Typed = Record<string, string>;
export const cellKey = (athlete: number, lift: string) => `${athlete}|${lift}`;

interface Props {
  day: Schemas["TestDayOut"];
  typed: Typed;
  kept: Record<string, Schemas["KeptCell"]>;
  onType: (key: string, text: string) => void;
  /** Several cells were pasted into one: the server says where they belong. */
  onPaste: (text: string, athlete: number, lift: string) => void;
  onDrop: (lift: string) => void;
}

/** Athletes down, lifts across; Enter and the arrows go through it. */
export function ResultGrid({ day, typed, kept, onType, onPaste, onDrop }: Props) {
  const grid = useRef<HTMLTableElement>(null);
  const go = (row: number, column: number) => grid.current?.querySelector<HTMLInputElement>(`input[data-at="${row}.${column}"]`)?.focus();
  return (
    <div className="sheet table-responsive">
      <table className="board test-grid" ref={grid}>
        <thead>
          <tr>
            <th scope="col">Athlete</th>
            {day.lifts.map((l) => (
              <th scope="col" key={l.id}>
                {l.name}{" "}
                {day.lifts.length > 1 && (
                  <button type="button" className="btn btn-link btn-sm p-0" aria-label={`Take out ${l.name}`} onClick={() => onDrop(l.id)}>
                    take out
                  </button>
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {day.rows.map((r, row) => (
            <tr key={r.athlete_id}>
              <th scope="row">{r.name}</th>
              {r.cells.map((c, column) => {
                const key = cellKey(r.athlete_id, c.exercise_id);
                const said = kept[key];
                const words = `${day.lifts[column]?.name ?? ""}, ${r.name}`;
                return (
                  <td key={c.exercise_id}>
                    <input
                      className={`form-control form-control-sm ${said && !said.is_kept && typed[key] ? "is-invalid" : ""}`}
                      data-at={`${row}.${column}`}
                      aria-label={words}
                      aria-describedby={`about-${key}`}
                      value={typed[key] ?? ""}
                      autoComplete="off"
                      onChange={(e) => onType(key, e.target.value)}
                      onPaste={(e) => {
                        const text = e.clipboardData.getData("text");
                        if (!/[\t\n]/.test(text.trim())) return;
                        e.preventDefault();
                        onPaste(text, r.athlete_id, c.exercise_id);
                      }}
                      onKeyDown={(e) => {
                        const steps: Record<string, [number, number]> = { Enter: [1, 0], ArrowDown: [1, 0], ArrowUp: [-1, 0] };
                        const step = steps[e.key];
                        if (!step) return;
                        e.preventDefault();
                        go(row + step[0], column + step[1]);
                      }}
                    />
                    <div id={`about-${key}`} className="small soft">
                      {said?.is_kept && !typed[key] ? <b>kept {said.text} · </b> : null}
                      {said && !said.is_kept && typed[key] ? <span className="clay">{said.problem} </span> : null}
                      {c.known && `e1RM ${c.known} · `}
                      <span title={c.why_not}>{c.may.length > 0 ? c.may.join(", ") : "no test"}</span>
                      {!c.is_max_open && <span className="visually-hidden">. {c.why_not}</span>}
                    </div>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
