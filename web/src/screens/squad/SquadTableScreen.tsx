import { useState } from "react";
import { Link, useParams } from "react-router";

import type { Schemas } from "../../api/client";
import { useSquadTable } from "../../api/hooks";
import { Download } from "../../parts/Download";
import { longDay, toCompetition } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";
import { LinesPanel } from "./LinesPanel";
import { RackSheet, Ticks } from "./RackSheet";
import { useHotkeys } from "../../parts/useHotkeys";

type Table = Schemas["SquadTableOut"];
type Line = Schemas["TableLineOut"];
type Row = Schemas["TableRowOut"];
const KINDS = { wall: "Wall sheet", racks: "Rack sheet", cards: "Athlete cards" };

/** One session for everybody who has it: a table on the screen, a wall sheet or cards on paper. Readable without colour. */
export default function SquadTableScreen() {
  const params = useParams();
  const id = Number(params.id);
  const day = params.day ?? "";
  const key = params.key ?? "";
  const [kind, setKind] = useState<keyof typeof KINDS>("wall");
  const [racks, setRacks] = useState<number | null>(null);
  const table = useSquadTable(id, day, key, "");
  useHotkeys({ p: () => window.print() });
  if (table.isPending) return <Loading what="everybody's loads" />;
  if (table.isLoadingError) return <Failed error={table.error} again={() => void table.refetch()} />;
  const t = table.data;
  return (
    <div className="page print-page">
      <div className="d-flex flex-wrap gap-3 align-items-end mb-2">
        <div>
          <h1>
            {t.theme} · {longDay(t.day)} · {toCompetition(t.days_to_go)}
          </h1>
          <p className="soft m-0">
            {t.squad} · {t.rows.length} {t.rows.length === 1 ? "athlete has" : "athletes have"} a session that day · about {t.minutes} min
          </p>
        </div>
        <div className="ms-auto d-flex gap-2 no-print">
          <Link className="btn btn-plain btn-sm" to={`/athletes/${id}/session/${day}/${key}`}>
            Back to the sheet
          </Link>
          <div className="btn-group" role="group" aria-label="What is printed">
            {(Object.keys(KINDS) as (keyof typeof KINDS)[]).map((k) => (
              <button key={k} type="button" className="btn btn-plain btn-sm" aria-pressed={kind === k} onClick={() => setKind(k)}>
                {KINDS[k]}
              </button>
            ))}
          </div>
          <a
            className="btn btn-plain btn-sm"
            href={`/api/export/athletes/${id}/sessions/${day}/${key}/${kind}.pdf${kind === "racks" && racks !== null ? `?racks=${racks}` : ""}`}
          >
            PDF
          </a>
          <Download href={`/api/export/athletes/${id}/sessions/${day}/${key}.json`}>JSON</Download>
          <button type="button" className="btn btn-primary btn-sm" onClick={() => window.print()}>
            Print
          </button>
        </div>
      </div>
      {kind === "wall" && <Wall table={t} />}
      {kind === "racks" && <RackSheet athleteId={id} day={day} session={key} racks={racks} onRacks={setRacks} />}
      {kind === "cards" && <Cards table={t} />}
      {t.lines.some((l) => l.runs) && <LinesPanel athletes={t.rows.length} />}
    </div>
  );
}

function Wall({ table: t }: { table: Table }) {
  const loaded = t.lines.filter((l) => t.rows.some((r) => r.lines[l.slot]?.is_loaded));
  return (
    <>
      <div className="wall-lines">
        {t.blocks.map((b) => (
          <div key={b.name}>
            <b>{b.name}</b> <span className="soft">· {[b.words, `${Math.round(b.minutes)} min`].filter(Boolean).join(" · ")}</span>
            {t.lines
              .filter((l) => l.block === b.name)
              .map((l) => (
                <div key={l.slot} className="wall-line">
                  <span className="num">{l.slot}</span>
                  <span>
                    <b>{l.exercise}</b> <span className="num">{l.text}</span>
                    {l.rest && <span className="soft"> · {l.rest}</span>}
                    {l.note && <b> {l.note}.</b>}
                    <span className="cue"> {l.cue}</span>
                  </span>
                </div>
              ))}
          </div>
        ))}
      </div>
      <div className="sheet wall">
        <table className="board">
          <thead>
            <tr>
              <th>Athlete</th>
              {loaded.map((l) => (
                <th key={l.slot}>
                  {l.slot} {l.exercise}
                  <div className="fw-normal">{l.unit && `${l.unit}, `}set by set</div>
                </th>
              ))}
              <th>Different for this athlete</th>
            </tr>
          </thead>
          <tbody>
            {t.rows.map((r) => (
              <tr key={r.athlete_id}>
                <th scope="row" className="text-body">
                  {r.name}
                </th>
                {loaded.map((l) => (
                  <Cell key={l.slot} cell={r.lines[l.slot]} />
                ))}
                <td className="soft small">{r.other}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

function Cell({ cell }: { cell: Schemas["TableSetOut"] | undefined }) {
  if (!cell) return <td className="soft">–</td>;
  return (
    <td>
      <span className="num wall-load">{cell.words}</span>
      {cell.sides.length > 0 && <div className="soft small">a side {cell.sides.join(" + ")}</div>}
      {(cell.note || cell.text) && (
        <div className="small">
          {cell.note} {cell.text}
        </div>
      )}
    </td>
  );
}

function Cards({ table: t }: { table: Table }) {
  return (
    <div className="cards">
      {t.rows.map((r) => (
        <Card key={r.athlete_id} row={r} table={t} />
      ))}
    </div>
  );
}

function Card({ row: r, table: t }: { row: Row; table: Table }) {
  return (
    <section className="print-card" aria-label={r.name}>
      <h2>{r.name}</h2>
      <div className="soft small">
        {t.theme}, {longDay(t.day)}
      </div>
      {t.blocks.map((b) => {
        const lines = t.lines.filter((l) => l.block === b.name && r.lines[l.slot]);
        if (lines.length === 0) return null;
        return (
          <table key={b.name} aria-label={b.name}>
            <tbody>
              <tr>
                <th colSpan={3} scope="colgroup">
                  {b.name} {b.words && <span className="fw-normal">· {b.words}</span>}
                </th>
              </tr>
              {lines.map((l) => (
                <CardLine key={l.slot} line={l} cell={r.lines[l.slot]} />
              ))}
            </tbody>
          </table>
        );
      })}
      {r.other && <div className="small soft">{r.other}</div>}
      <p className="small mt-2 mb-4">How hard was it, 0 to 10: ____ Minutes: ____ Notes:</p>
    </section>
  );
}

function CardLine({ line: l, cell }: { line: Line; cell: Schemas["TableSetOut"] | undefined }) {
  if (!cell) return null;
  return (
    <tr>
      <td className="num">{l.slot}</td>
      <td>
        {cell.note || l.exercise}
        <div className="num">
          {cell.text || l.text}
          {l.rest && `, ${l.rest}`}
        </div>
        {cell.sides.length > 0 && <div className="small">a side {cell.sides.join(" + ")}</div>}
      </td>
      <td className="num">
        {cell.sets.map((alike, n) => (
          <div key={n} className="tick-row">
            <Ticks sets={alike.count} /> {alike.words}
          </div>
        ))}
      </td>
    </tr>
  );
}
