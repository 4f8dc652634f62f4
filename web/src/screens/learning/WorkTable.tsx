import type { Schemas } from "../../api/client";

type Learning = Schemas["LearningOut"];
type Work = Schemas["WorkOut"];

/** The same weeks in numbers: main sets by pattern, lifts by zone, volume, contacts, metres, minutes, sessions. */
export function WorkTable({ learning: l }: { learning: Learning }) {
  const rows: [name: string, planned: ((w: Work) => number) | null, done: (w: Work) => number | string][] = [
    ["Main sets", (w) => w.main_sets, (w) => w.main_sets],
    ...l.patterns.map((p, i): (typeof rows)[number] => [`· ${p}`, (w) => w.by_pattern[i] ?? 0, (w) => w.by_pattern[i] ?? 0]),
    ...l.zones.map((z, i): (typeof rows)[number] => [`Lifts at ${z}`, null, (w) => w.lifts[i] ?? 0]),
    ["Average intensity", null, (w) => w.average || "–"],
    [`Volume load, ${l.mass_unit}`, null, (w) => w.volume.toLocaleString("en-GB")],
    ["Foot contacts", (w) => w.contacts, (w) => w.contacts],
    ["Sprint, m", (w) => w.sprint_m, (w) => w.sprint_m],
  ];
  return (
    <details className="sheet mb-3">
      <summary className="pad fw-semibold">In numbers: done of planned</summary>
      <div className="scroll-x">
        <table className="board">
          <thead>
            <tr>
              <th>Week of</th>
              {l.weeks.map((w) => (
                <th key={w.monday} className="num">
                  {w.label}
                  <div className="soft fw-normal">{w.phase}</div>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              <th>Sessions</th>
              {l.weeks.map((w) => (
                <td key={w.monday} className="num">
                  {w.sessions_done} of {w.sessions}
                </td>
              ))}
            </tr>
            {rows.map(([name, planned, done]) => (
              <tr key={name}>
                <th className="fw-normal">{name}</th>
                {l.weeks.map((w) => (
                  <td key={w.monday} className="num">
                    {done(w.done)}
                    {planned && <span className="soft"> of {planned(w.planned)}</span>}
                  </td>
                ))}
              </tr>
            ))}
            <tr>
              <th className="fw-normal">Minutes</th>
              {l.weeks.map((w) => (
                <td key={w.monday} className="num">
                  {w.minutes}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
    </details>
  );
}
