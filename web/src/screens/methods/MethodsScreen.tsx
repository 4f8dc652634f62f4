import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link, useParams } from "react-router";

import { api, need, type Problem, type Schemas } from "../../api/client";
import { useMethods } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { dayMonth, longDay, toCompetition } from "../../parts/dates";
import { Margin, type MarginNote } from "../../parts/Margin";
import { Plates } from "../../parts/Plates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { Needs } from "../../parts/Needs";
import { useMay } from "../../api/hooks";

type Methods = Schemas["MethodsOut"];
type Row = Schemas["MethodRow"];

/** One line of a session by each of the eight ways to set a load; from here one is picked for the line or the block. */
export default function MethodsScreen() {
  const params = useParams();
  const where = { athlete_id: Number(params.id), day: params.day ?? "", key: params.key ?? "", line: params.line ?? "" };
  const methods = useMethods(where);
  if (methods.isPending) return <Loading what="the methods" />;
  if (methods.isLoadingError) return <Failed error={methods.error} again={() => void methods.refetch()} />;
  return <Compared where={where} data={methods.data} />;
}

type Where = { athlete_id: number; day: string; key: string; line: string };

function Compared({ where, data: m }: { where: Where; data: Methods }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const path = "/api/athletes/{athlete_id}/sessions/{day}/{key}/lines/{line}/methods" as const;
  const pick = useAction((body: Schemas["PickMethod"]) => need(api.PUT(path, { params: { path: where }, body })), { say: setProblem });
  const drop = useAction(() => need(api.DELETE(path, { params: { path: where } })), { say: setProblem });
  const back = `/athletes/${where.athlete_id}/session/${where.day}/${where.key}`;
  const notes: MarginNote[] = [
    { id: "suggested", decision: true, title: `${m.suggested} suits here.`, text: m.why },
    {
      id: "meant",
      decision: false,
      title: "What the line means.",
      text: `${m.meant}. Each method writes that in its own way. Linear and 2-for-2 look at last time only; RM zone and APRE go to failure whatever the day.`,
    },
    {
      id: "mix",
      decision: false,
      title: "Combining is the norm.",
      text: "Write “@ 75 %, 2 in reserve” to start from the percentage and correct by reserve on the floor.",
    },
  ];
  if (m.block_method) {
    notes.unshift({
      id: "block",
      decision: false,
      title: `${m.block_method} for this block.`,
      text: `To ${dayMonth(m.block_until)}, the end of ${m.block_name}.${m.block_rests ? " It rests today: an easy week, a taper or a line typed by hand stands as it is." : ""}`,
      action: (
        <Needs may="plan">
          <button type="button" className="btn btn-link p-0 fw-semibold" onClick={() => drop.run(undefined)}>
            Back to the proposal
          </button>
        </Needs>
      ),
    });
  }
  return (
    <div className="page">
      <h1>
        {m.slot} {m.exercise}, 8 methods
      </h1>
      <p className="soft mb-2">
        {m.athlete_name} · {longDay(m.day)} · {toCompetition(m.days_to_go)} · now “{m.text}” · <Link to={back}>Back to the session</Link>
      </p>
      {problem && (
        <div className="mb-2">
          <Trouble problem={problem} />
        </div>
      )}
      <div className="with-margin">
        <div className="sheet">
          <table className="board">
            <caption className="visually-hidden">The line by each method</caption>
            <thead>
              <tr>
                <th style={{ width: "21%" }}>Method</th>
                <th style={{ width: "19%" }}>As on the board</th>
                <th className="right">Today</th>
                <th>A side</th>
                <th>Good for, and its limits</th>
                <th>Use it for</th>
              </tr>
            </thead>
            <tbody>
              {m.rows.map((row) => (
                <MethodLine
                  key={row.key}
                  row={row}
                  m={m}
                  busy={pick.isPending}
                  onPick={(scope) => pick.run({ method: row.key, scope, reason: "" })}
                />
              ))}
            </tbody>
          </table>
        </div>
        <Margin notes={notes} />
      </div>
    </div>
  );
}

function MethodLine({ row, m, busy, onPick }: { row: Row; m: Methods; busy: boolean; onPick: (scope: "line" | "block") => void }) {
  const may = useMay();
  const heaviest = row.sets.reduce<Row["sets"][number] | null>((best, s) => ((s.load_kg ?? -1) > (best?.load_kg ?? -1) ? s : best), null);
  const loads = [...new Set(row.sets.map((s) => s.load_kg))];
  return (
    <tr style={row.is_current ? { background: "var(--wash)" } : undefined}>
      <th scope="row" className="text-body" style={{ fontSize: "0.95rem" }}>
        <span className="fw-semibold">{row.name}</span>
        {row.is_current && <span className="soft"> · now</span>}
        {row.is_suggested && <span className="clay"> · suits here</span>}
        <div className="soft small fw-normal">{row.how}</div>
      </th>
      <td className="num">{row.text || "–"}</td>
      <td className="right num nowrap" style={{ fontSize: "1.2rem" }}>
        {heaviest?.load_kg != null ? (
          <>
            {loads.length > 1 && <span className="soft fw-normal small">up to </span>}
            <Working data={heaviest.working} label={`${row.name}: ${heaviest.load_words} ${heaviest.unit}, show the working`}>
              {heaviest.load_words}
            </Working>{" "}
            <small className="soft fw-normal">{heaviest.unit}</small>
          </>
        ) : (
          <span className="soft small fw-normal">by feel</span>
        )}
      </td>
      <td>
        {heaviest && (
          <Plates perSide={heaviest.per_side_kg} words={heaviest.per_side_words} unit={heaviest.unit} scale={0.7} worded={false} />
        )}
      </td>
      <td className="small">
        {row.missing.length > 0 && (
          <div className="clay">
            {row.speaks ? "Missing: " : "Filled in, because: "}
            {row.missing.join("; ")}
          </div>
        )}
        {row.remark && <div className="clay">{row.remark}</div>}
        <span className="soft">
          {row.good_for} · {row.limits}
        </span>
      </td>
      <td className="nowrap">
        {row.text && m.can_change && may("plan") && (
          <div className="d-flex flex-column gap-1">
            <Button
              size="sm"
              variant="plain"
              disabled={busy || row.is_current}
              onClick={() => onPick("line")}
              aria-label={`This line: ${row.name}`}
            >
              This line
            </Button>
            <Button
              size="sm"
              variant="plain"
              disabled={busy}
              onClick={() => onPick("block")}
              aria-label={`To ${dayMonth(m.block_until)}, the end of ${m.block_name}: ${row.name}`}
            >
              To {dayMonth(m.block_until)}
            </Button>
          </div>
        )}
      </td>
    </tr>
  );
}
