import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { useParams } from "react-router";

import { api, need, problemOf, type Schemas } from "../../api/client";
import { useBench, useSeason, useSeasonChange } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";
import { longDay, shortDay, toGo } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { SeasonTabs } from "../season/SeasonTabs";
import { INK, TaperChart } from "./TaperChart";

type Taper = Schemas["TaperOut"];
const NAMES = ["A", "B", "C"];

/** Two or three tapers for the next main competition, side by side; one can be taken into the season. */
export default function TapersScreen() {
  const id = Number(useParams().id);
  const [tapers, setTapers] = useState<Taper[]>([]);
  const [good, setGood] = useState<Taper[]>([]); // the last ones that could be drawn: they stay while a refusal is shown
  const [constants, setConstants] = useState("usual");
  const bench = useBench(id, { tapers, constants });
  const before = useBench(id, { tapers: good, constants });
  const season = useSeason(id).data?.season;
  const take = useSeasonChange(id, (body: Schemas["StyleIn"]) =>
    need(api.PUT("/api/athletes/{athlete_id}/season/style", { params: { path: { athlete_id: id } }, body })),
  );
  if (bench.isPending) return <Loading what="the tapers" />;
  if (bench.isError && tapers.length === 0) {
    return (
      <div className="page">
        <SeasonTabs id={id} />
        <Failed error={bench.error} again={() => void bench.refetch()} />
      </div>
    );
  }
  const b = bench.data ?? before.data;
  if (!b) return <Loading what="the tapers" />;
  const shown = tapers.length > 0 ? tapers : b.tried.map((t) => t.taper);
  function change(i: number, part: Partial<Taper>) {
    if (!bench.isError) setGood(tapers);
    setTapers(shown.map((t, j) => (j === i ? { ...t, ...part } : t)));
  }
  return (
    <div className="page">
      <h1>
        Tapers for {b.competition}, {longDay(b.day)} · {toGo(b.days_to_go)}
      </h1>
      <SeasonTabs id={id} />
      {bench.isError && <Trouble problem={problemOf(bench.error)} />}
      {take.isError && <Trouble problem={problemOf(take.error)} />}
      <div className="sheet mb-3">
        <table className="board">
          <caption className="visually-hidden">Tapers side by side</caption>
          <thead>
            <tr>
              <th>Taper</th>
              <th>days</th>
              <th>shape</th>
              <th>volume off in all, %</th>
              <th>sessions kept, %</th>
              <th className="right">at its end, %</th>
              <th className="right">form on the day</th>
              <th className="right">against A</th>
              <th>form is highest</th>
              <th>
                <span className="visually-hidden">Take it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((t, i) => {
              const tried = b.tried[i];
              const name = NAMES[i] ?? "";
              return (
                <tr key={i}>
                  <th scope="row" className="text-body">
                    <svg width="26" height="10" aria-hidden className="me-1">
                      <path d="M1 5H25" stroke={INK[i]?.color} strokeWidth="3" strokeDasharray={INK[i]?.dash} />
                    </svg>
                    {name}
                  </th>
                  <td>
                    <NumberField label={`Days of taper ${name}`} value={t.days} onSet={(days) => change(i, { days: Math.round(days) })} />
                  </td>
                  <td>
                    <Form.Select
                      size="sm"
                      aria-label={`Shape of taper ${name}`}
                      value={t.shape}
                      onChange={(e) => change(i, { shape: e.target.value })}
                    >
                      {b.shapes.map((s) => (
                        <option key={s}>{s}</option>
                      ))}
                    </Form.Select>
                  </td>
                  <td>
                    <NumberField
                      label={`Depth of taper ${name} in per cent`}
                      value={t.depth_pct}
                      onSet={(depth_pct) => change(i, { depth_pct })}
                    />
                  </td>
                  <td>
                    <NumberField
                      label={`Days kept in taper ${name} in per cent`}
                      value={t.frequency_pct}
                      onSet={(frequency_pct) => change(i, { frequency_pct })}
                    />
                  </td>
                  <td className="right num">{tried?.at_its_end_pct.toFixed(0)}</td>
                  <td className="right num" style={{ fontSize: "1.1rem" }}>
                    {tried && (
                      <Working
                        data={tried.working}
                        label={`Form of taper ${name} on the day: ${tried.form_on_the_day.toFixed(0)}, show the working`}
                      >
                        {tried.form_on_the_day.toFixed(0)}
                      </Working>
                    )}
                    <div className="soft small nowrap">
                      {tried?.low_on_the_day.toFixed(0)} to {tried?.high_on_the_day.toFixed(0)}
                    </div>
                  </td>
                  <td className="right num nowrap">
                    {i > 0 && tried ? signed(tried.against_first) : "–"}
                    {i > 0 && tried && (
                      <div className="soft small">
                        {signed(tried.against_first_low)} to {signed(tried.against_first_high)}
                      </div>
                    )}
                  </td>
                  <td className="nowrap small">{tried && peak(tried)}</td>
                  <td className="right nowrap">
                    <Button
                      size="sm"
                      variant="plain"
                      aria-label={same(b.chosen, t) ? `In the season: taper ${name}` : `Take it: taper ${name}`}
                      disabled={!season || take.isPending}
                      onClick={() =>
                        season &&
                        take.mutate({
                          arrangement: season.style.arrangement,
                          loading_weeks: season.style.loading_weeks,
                          taper: t,
                          scope: "athlete",
                        })
                      }
                    >
                      {same(b.chosen, t) ? "In the season" : "Take it"}
                    </Button>
                  </td>
                </tr>
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
          {b.tried.map((t, i) =>
            t.remarks.map((words) => (
              <div className="note" key={`${i}${words}`}>
                <b>{NAMES[i]}:</b> {words}.
              </div>
            )),
          )}
          <div className="note">
            <b>Constants.</b> {b.fit_words}
            <Form.Select
              size="sm"
              className="mt-1"
              aria-label="Constants of the picture"
              value={constants}
              onChange={(e) => setConstants(e.target.value)}
            >
              <option value="usual">45 and 15 days, as published</option>
              <option value="shorter">42 and 7 days, later custom</option>
              <option value="own">the athlete's own, when sound</option>
            </Form.Select>
            {constants === "own" && b.constants !== "own" && <div className="soft">Not sound enough yet: the usual ones draw it.</div>}
          </div>
          {b.chosen && season && (
            <div className="note">
              <b>A taper of your own is in the season.</b>
              <div className="mt-1">
                <button
                  type="button"
                  className="btn btn-link p-0"
                  onClick={() =>
                    take.mutate({
                      arrangement: season.style.arrangement,
                      loading_weeks: season.style.loading_weeks,
                      taper: null,
                      scope: "athlete",
                    })
                  }
                >
                  Back to the usual taper
                </button>
              </div>
            </div>
          )}
        </aside>
      </div>
    </div>
  );
}

function peak(t: Schemas["TriedOut"]): string {
  if (t.peak_days_off === 0) return "on the day";
  if (t.still_rises) return "later than a week after";
  const n = Math.abs(t.peak_days_off);
  return `${shortDay(t.peak_day)}, ${n} ${n === 1 ? "day" : "days"} ${t.peak_days_off > 0 ? "after" : "before"}`;
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
