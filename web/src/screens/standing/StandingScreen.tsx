import { useState } from "react";
import Form from "react-bootstrap/Form";
import { Link, useParams } from "react-router";

import type { Schemas } from "../../api/client";
import { useStanding } from "../../api/hooks";
import { dayYear, kg } from "../../parts/dates";
import { Empty, Failed, Loading } from "../../parts/states";
import { Working } from "../../parts/Working";
import { AthleteTabs } from "../athlete/AthleteTabs";
import { RatioBand } from "./RatioBand";
import { Sprint } from "./Sprint";

type Standing = Schemas["StandingOut"];

export default function StandingScreen() {
  const id = Number(useParams().id);
  const [limited, setLimited] = useState("");
  const standing = useStanding(id, limited);
  if (standing.isPending) return <Loading what="bests and ratios" />;
  if (standing.isLoadingError) return <Failed error={standing.error} again={() => void standing.refetch()} />;
  const s = standing.data;
  return (
    <div className="page">
      <h1>{s.athlete_name}</h1>
      <AthleteTabs id={id} />
      {s.lifts.length === 0 && s.performance.length === 0 && (
        <Empty title="No results yet.">Bests and ratios follow from results and logged sets.</Empty>
      )}
      <div className="row g-3">
        <div className="col-lg-7">
          {s.lifts.length > 0 && <LiftBests standing={s} />}
          {s.performance.length > 0 && <Performance standing={s} />}
        </div>
        <div className="col-lg-5">
          <Ratios standing={s} />
          {s.limit && <Limit standing={s} limit={s.limit} onChoose={setLimited} />}
          <Sprint id={id} run={s.sprint} />
          {s.findings.length > 0 && <Findings standing={s} />}
          {s.sides.length > 0 && <Sides standing={s} />}
        </div>
      </div>
    </div>
  );
}

function Caption({ children }: { children: React.ReactNode }) {
  return (
    <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
      {children}
    </caption>
  );
}

function LiftBests({ standing }: { standing: Standing }) {
  return (
    <div className="sheet mb-3">
      <table className="board">
        <Caption>Bests</Caption>
        <thead>
          <tr>
            <th>Lift</th>
            <th className="right">Best 1RM</th>
            <th>Best rep-max</th>
            <th>By sets × reps</th>
            <th>Best load at a velocity</th>
          </tr>
        </thead>
        <tbody>
          {standing.lifts.map((l) => (
            <tr key={l.exercise}>
              <th scope="row" className="text-body fw-semibold">
                {l.exercise}
              </th>
              <td className="right">
                <span className="num" style={{ fontSize: "1.15rem" }}>
                  {kg(l.tested)} {l.tested !== null && <small className="soft fw-normal">{l.unit}</small>}
                </span>
                {l.tested_day && <div className="soft small nowrap">{dayYear(l.tested_day)}</div>}
              </td>
              <td className="small">{l.best_reps || "–"}</td>
              <td>
                <Chips rows={l.schemes} unit={l.unit} />
              </td>
              <td>
                <Chips rows={l.at_velocity} unit={l.unit} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Chips({ rows, unit }: { rows: Schemas["SchemeOut"][]; unit: string }) {
  if (rows.length === 0) return <span className="soft">–</span>;
  return (
    <ul className="chips">
      {rows.map((r) => (
        <li key={r.words} title={dayYear(r.day)}>
          <span className="soft">{r.words}</span> <b className="num">{kg(r.load)}</b> <span className="soft">{unit}</span>
        </li>
      ))}
    </ul>
  );
}

function Performance({ standing }: { standing: Standing }) {
  return (
    <div className="sheet mb-3">
      <table className="board">
        <Caption>Jumps, holds and sprints</Caption>
        <thead>
          <tr>
            <th>What</th>
            <th>Best</th>
            <th>Day</th>
            <th className="right">Results</th>
          </tr>
        </thead>
        <tbody>
          {standing.performance.map((p) => (
            <tr key={`${p.exercise}${p.kind}${p.best}`}>
              <td>{p.exercise}</td>
              <td className="num">
                <Working data={p.working}>{p.best}</Working>
              </td>
              <td className="nowrap soft">{dayYear(p.day)}</td>
              <td className="right num soft">{p.count}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Findings({ standing }: { standing: Standing }) {
  return (
    <div className="sheet mb-3">
      <table className="board">
        <Caption>What the results say</Caption>
        <tbody>
          {standing.findings.map((f) => (
            <tr key={f.title}>
              <th scope="row" className="text-body fw-semibold">
                {f.title}
              </th>
              <td className="num nowrap">
                <Working data={f.working} label={`${f.title} ${f.value}, show the working`}>
                  {f.value}
                </Working>
              </td>
              <td className={`small ${f.is_flagged ? "clay" : "soft"}`}>{f.words}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Ratios({ standing }: { standing: Standing }) {
  return (
    <section className="sheet pad mb-3">
      <h2>Ratios</h2>
      {standing.ratios.length === 0 && <p className="soft mb-1">Two lifts of a ratio need a max each.</p>}
      {standing.ratios.map((r) => (
        <div key={r.name} className="border-bottom pb-2 mb-2">
          <div className="d-flex align-items-baseline gap-2">
            <span className="fw-semibold">{r.name}</span>
            <span className="num ms-auto" style={{ fontSize: "1.25rem" }}>
              <Working data={r.working} label={`${r.name} ${r.pct.toFixed(0)} %, show the working`}>
                {r.pct.toFixed(0)} %
              </Working>
            </span>
          </div>
          <RatioBand ratio={r} />
          <div className="small">
            <span className={r.lagging ? "clay fw-semibold" : "soft"}>
              {r.verdict}
              {r.lagging && `: ${r.lagging.toLowerCase()} lags by ${r.gap_words} to the target`}
            </span>
            {r.suggestions.length > 0 && <span className="soft"> · {r.suggestions.join(" · ")}</span>}
          </div>
        </div>
      ))}
      {standing.missing_ratios.length > 0 && <p className="soft small mb-1">Not known: {standing.missing_ratios.join(", ")}.</p>}
      <p className="soft small mb-0">Guides, not verdicts: elite exceptions are known at both ends.</p>
    </section>
  );
}

function Limit({ standing, limit, onChoose }: { standing: Standing; limit: Schemas["LimitOut"]; onChoose: (id: string) => void }) {
  return (
    <section className="sheet mb-3">
      <div className="pad d-flex align-items-center gap-2 pb-1">
        <h2 className="m-0">What limits the {limit.exercise.toLowerCase()}</h2>
        {standing.limit_choices.length > 1 && (
          <Form.Select
            size="sm"
            aria-label="Lift to look at"
            className="ms-auto w-auto"
            value={limit.exercise_id}
            onChange={(e) => onChoose(e.target.value)}
          >
            {standing.limit_choices.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Form.Select>
        )}
      </div>
      <table className="board">
        <caption className="visually-hidden">Five questions</caption>
        <tbody>
          {limit.answers.map((a) => (
            <tr key={a.question}>
              <th scope="row" className="text-body fw-semibold" style={{ width: 110 }}>
                {a.question}
                <div className={a.verdict === "likely" ? "clay" : "soft"}>{a.verdict}</div>
              </th>
              <td className="small">
                {a.evidence}
                {a.record_at && (
                  <>
                    {" "}
                    <Link
                      to={`/athletes/${standing.athlete_id}${a.record_at === "faults" ? "/record" : ""}`}
                      aria-label={`Note it: ${a.question}`}
                    >
                      Note it
                    </Link>
                  </>
                )}
                <div className="soft">{a.suggests.join("; ")}</div>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="soft small pad mb-0">Guidance from common practice. Faults and restrictions stand under Details.</p>
    </section>
  );
}

function Sides({ standing }: { standing: Standing }) {
  return (
    <div className="sheet mb-3">
      <table className="board">
        <Caption>Left and right, newest of each</Caption>
        <thead>
          <tr>
            <th>What</th>
            <th className="right">Left</th>
            <th className="right">Right</th>
            <th>Weaker of stronger</th>
          </tr>
        </thead>
        <tbody>
          {standing.sides.map((s) => (
            <tr key={s.exercise}>
              <td>{s.exercise}</td>
              <td className="right num">
                {s.left} {s.unit}
              </td>
              <td className="right num">
                {s.right} {s.unit}
              </td>
              <td className={s.is_flagged ? "clay fw-semibold" : "soft"}>
                {s.share_pct.toFixed(0)} %{s.weaker && `, ${s.weaker} weaker`}
                {s.is_flagged && ": over 10 % apart"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
