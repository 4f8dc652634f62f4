import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { useParams } from "react-router";

import { api, need, problemOf, type Schemas } from "../../api/client";
import { useBench, useSeason, useSeasonChange } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";
import { inDays, longDay } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { SeasonTabs } from "../season/SeasonTabs";
import { INK, TaperChart } from "./TaperChart";
import { useMay } from "../../api/hooks";

type Taper = Schemas["TaperOut"];
const NAMES = ["1", "2", "3"];

/** Two or three tapers for the next main competition, side by side; one can be taken into the season. */
export default function TapersScreen() {
  const id = Number(useParams().id);
  const [tapers, setTapers] = useState<Taper[]>([]);
  const [good, setGood] = useState<Taper[]>([]); // the last ones that could be drawn: they stay while a refusal is shown
  const [constants, setConstants] = useState("usual");
  const [practice, setPractice] = useState<number | null>(null);
  const bench = useBench(id, { tapers, constants, practice_left_pct: practice });
  const before = useBench(id, { tapers: good, constants, practice_left_pct: practice });
  const season = useSeason(id).data?.season;
  const take = useSeasonChange(id, (body: Schemas["StyleIn"]) =>
    need(api.PUT("/api/athletes/{athlete_id}/season/style", { params: { path: { athlete_id: id } }, body })),
  );
  if (bench.isPending) return <Loading what="the tapers" />;
  if (bench.isLoadingError && tapers.length === 0) {
    return (
      <div className="page">
        <SeasonTabs id={id} />
        <Failed error={bench.error} again={() => void bench.refetch()} />
      </div>
    );
  }
  const b = bench.data ?? before.data;
  if (!b) return <Loading what="the tapers" />;
  if (b.day === null || b.days_to_go === null) {
    return (
      <div className="page">
        <h1>{b.athlete_name}: no main competition ahead</h1>
        <SeasonTabs id={id} />
        <p className="sheet pad">A taper is compared for a main competition. Add one on the season’s page.</p>
      </div>
    );
  }
  const shown = tapers.length > 0 ? tapers : b.tried.map((t) => t.taper);
  const keep = (taper: Taper | null) =>
    season && take.run({ arrangement: season.style.arrangement, loading_weeks: season.style.loading_weeks, taper, scope: "athlete" });
  function change(i: number, part: Partial<Taper>) {
    if (!bench.isLoadingError) setGood(tapers);
    setTapers(shown.map((t, j) => (j === i ? { ...t, ...part } : t)));
  }
  return (
    <div className="page">
      <h1>
        Tapers for {b.competition}, {longDay(b.day)} · {inDays(b.days_to_go)}
      </h1>
      <SeasonTabs id={id} />
      {bench.isLoadingError && <Trouble problem={problemOf(bench.error)} />}
      {take.problem && <Trouble problem={take.problem} />}
      <div className="sheet mb-3">
        <table className="board">
          <caption className="visually-hidden">Tapers side by side</caption>
          <thead>
            <Headings />
          </thead>
          <tbody>
            {shown.map((t, i) => {
              return (
                <TaperRow
                  key={i}
                  name={NAMES[i] ?? ""}
                  ink={INK[i]}
                  taper={t}
                  tried={b.tried[i]}
                  shapes={b.shapes}
                  isChosen={same(b.chosen, t)}
                  canTake={season !== null && season !== undefined && !take.isPending}
                  onChange={(part) => change(i, part)}
                  onTake={() => keep(t)}
                />
              );
            })}
          </tbody>
        </table>
      </div>
      <div className="with-margin">
        <TaperChart bench={b} />
        <aside aria-label="Notes in the margin">
          <div className="note">
            <b>{b.caution}</b>
          </div>
          <Remarks bench={b} />
          <PracticeLeft value={practice} onSet={setPractice} />
          {b.au_a_set && (
            <div className="note">
              <b>Load of a main set:</b> <Working data={b.au_a_set}>{b.au_a_set.result}</Working>
            </div>
          )}
          <Constants bench={b} constants={constants} onSet={setConstants} />
          {b.chosen && season && <OwnTaper onBack={() => keep(null)} />}
        </aside>
      </div>
    </div>
  );
}

/** What is said of each. */
function Remarks({ bench }: { bench: Schemas["BenchOut"] }) {
  return bench.tried.map((t, i) =>
    t.remarks.map((words) => (
      <div className="note" key={`${i}${words}`}>
        <b>{NAMES[i]}:</b> {words}.
      </div>
    )),
  );
}

function OwnTaper({ onBack }: { onBack: () => void }) {
  return (
    <div className="note">
      <b>A taper of your own is in the season.</b>
      <div className="mt-1">
        <button type="button" className="btn btn-link p-0" onClick={onBack}>
          Back to the usual taper
        </button>
      </div>
    </div>
  );
}

/** By which constants the picture is drawn. */
function Constants({ bench, constants, onSet }: { bench: Schemas["BenchOut"]; constants: string; onSet: (constants: string) => void }) {
  return (
    <div className="note">
      <b>Constants.</b> {bench.fit_words}
      <Form.Select
        size="sm"
        className="mt-1"
        aria-label="Constants of the picture"
        value={constants}
        onChange={(e) => onSet(e.target.value)}
      >
        <option value="usual">45 and 15 days, as published</option>
        <option value="shorter">42 and 7 days, later custom</option>
        <option value="own">the athlete's own, when sound</option>
      </Form.Select>
      {constants === "own" && bench.constants !== "own" && <div className="soft">Not sound enough yet: the usual ones draw it.</div>}
    </div>
  );
}

function Headings() {
  return (
    <tr>
      <th>Taper</th>
      <th>Days</th>
      <th>Shape</th>
      <th>Volume off in all, %</th>
      <th>Sessions kept, %</th>
      <th className="right">At its end, %</th>
      <th className="right">Main sets, off</th>
      <th className="right">Readiness score against taper 1, AU</th>
      <th>
        <span className="visually-hidden">Use it</span>
      </th>
    </tr>
  );
}

function signed(value: number): string {
  return `${value > 0 ? "+" : value < 0 ? "−" : ""}${Math.abs(value).toFixed(0)}`;
}

function same(a: Taper | null, b: Taper): boolean {
  return a !== null && a.days === b.days && a.shape === b.shape && a.depth_pct === b.depth_pct && a.frequency_pct === b.frequency_pct;
}

function NumberField({ label, value, onSet }: { label: string; value: number; onSet: (value: number) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const save = () => {
    const number = typedNumber(typed ?? "") ?? 0;
    if (typed !== null && typed.trim() !== "" && !Number.isNaN(number) && number !== value) onSet(number);
    setTyped(null);
  };
  return (
    <Form.Control
      size="sm"
      className="num text-end"
      style={{ width: 72 }}
      inputMode="decimal"
      aria-label={label}
      value={typed ?? String(value)}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={save}
      onKeyDown={(e) => e.key === "Enter" && save()}
    />
  );
}

interface RowProps {
  name: string;
  ink: (typeof INK)[number] | undefined;
  taper: Taper;
  tried: Schemas["TriedOut"] | undefined;
  shapes: string[];
  isChosen: boolean;
  canTake: boolean;
  onChange: (part: Partial<Taper>) => void;
  onTake: () => void;
}

function TaperRow({ name, ink, taper: t, tried, shapes, isChosen, canTake, onChange, onTake }: RowProps) {
  const may = useMay();
  return (
    <tr>
      <th scope="row" className="text-body">
        <svg width="26" height="10" aria-hidden className="me-1">
          <path d="M1 5H25" stroke={ink?.color} strokeWidth="3" strokeDasharray={ink?.dash} />
        </svg>
        {name}
      </th>
      <td>
        <NumberField label={`Days of taper ${name}`} value={t.days} onSet={(days) => onChange({ days: Math.round(days) })} />
      </td>
      <td>
        <Form.Select
          size="sm"
          style={{ minWidth: "11em" }}
          aria-label={`Shape of taper ${name}`}
          value={t.shape}
          onChange={(e) => onChange({ shape: e.target.value })}
        >
          {shapes.map((s) => (
            <option key={s}>{s}</option>
          ))}
        </Form.Select>
      </td>
      <td>
        <NumberField label={`Depth of taper ${name} in per cent`} value={t.depth_pct} onSet={(depth_pct) => onChange({ depth_pct })} />
      </td>
      <td>
        <NumberField
          label={`Days kept in taper ${name} in per cent`}
          value={t.frequency_pct}
          onSet={(frequency_pct) => onChange({ frequency_pct })}
        />
      </td>
      <td className="right num">{tried?.at_its_end_pct.toFixed(0)}</td>
      <td className="right num nowrap">
        {tried?.sets_in_it}
        {tried && tried.real_cut_pct !== null && <div className="soft small">{tried.real_cut_pct.toFixed(0)} % off</div>}
      </td>
      <td className="right num nowrap" style={{ fontSize: "1.05rem" }}>
        {tried && tried.difference !== null && tried.difference_low !== null && tried.difference_high !== null ? (
          <>
            <Working data={tried.working} label={`Taper ${name} against taper 1: ${signed(tried.difference)} AU, show the working`}>
              {signed(tried.difference)}
            </Working>
            <div className="soft small">
              {signed(tried.difference_low)} to {signed(tried.difference_high)}
            </div>
          </>
        ) : tried?.is_outside ? (
          <span className="soft small">not compared</span>
        ) : (
          "–"
        )}
      </td>
      <td className="right nowrap">
        <Button
          size="sm"
          variant="plain"
          aria-label={isChosen ? `In the season: taper ${name}` : `Use it: taper ${name}`}
          disabled={!canTake || !may("plan")}
          onClick={onTake}
        >
          {isChosen ? "In the season" : "Use it"}
        </Button>
      </td>
    </tr>
  );
}

/** Sport practice is the sport coach's: left out, or so much of it reckoned in the taper. */
function PracticeLeft({ value, onSet }: { value: number | null; onSet: (value: number | null) => void }) {
  return (
    <div className="note">
      <b>Sport practice</b> is the sport coach’s.
      <Form.Select
        size="sm"
        className="mt-1"
        aria-label="Sport practice in the taper"
        value={value === null ? "" : String(value)}
        onChange={(e) => onSet(e.target.value === "" ? null : Number(e.target.value))}
      >
        <option value="">left out</option>
        {[100, 80, 60, 40, 20].map((n) => (
          <option key={n} value={n}>
            {n} % of it in the taper
          </option>
        ))}
      </Form.Select>
    </div>
  );
}
