import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Schemas } from "../../api/client";
import { typedNumber } from "../../logic/numbers";
import type { Answers } from "./useRoom";

type Choice = Schemas["ChoiceOfRoomOut"];
type Key = "sleep" | "soreness" | "stress" | "energy";
const SPORTS = ["practice", "match", "travel", "other"];

interface Props {
  questions: Choice[];
  areas: Choice[];
  said: Answers | null;
  openPain: Schemas["AskedPainOut"][];
  withJumps?: boolean;
  label: string;
  busy: boolean;
  onSay: (answers: Answers) => void;
}

const EMPTY: Answers = { sleep: null, soreness: null, stress: null, energy: null, pain: [], sport: [], jumps_cm: [], loaded: [] };

/** Half a minute of questions: four taps, what the sport did, where it hurts. */
export function AnswerForm({ questions, areas, said, openPain, withJumps = true, label, busy, onSay }: Props) {
  const [a, setA] = useState<Answers>({ ...EMPTY, pain: [...new Set(openPain.map((p) => p.area))], ...said });
  const [hurts, setHurts] = useState((said?.pain ?? openPain).length > 0);
  const first = said?.sport?.[0];
  const [sport, setSport] = useState(first?.kind ?? "");
  const [figures, setFigures] = useState({
    minutes: String(first?.minutes ?? 60),
    srpe: String(first?.srpe ?? 6),
    hours: String(first?.hours_ago ?? 18),
  });
  const [missing, setMissing] = useState(false);
  const [jumps, setJumps] = useState((said?.jumps_cm ?? []).join(" "));
  const number = (text: string) => typedNumber(text) ?? 0;
  const pain = a.pain ?? [];
  function say() {
    if (hurts && pain.length === 0) {
      setMissing(true);
      return;
    }
    onSay({
      ...a,
      pain: hurts ? pain : [],
      sport: sport ? [{ kind: sport, minutes: number(figures.minutes), srpe: number(figures.srpe), hours_ago: number(figures.hours) }] : [],
      jumps_cm: jumps
        .split(/[\s;]+/)
        .filter(Boolean)
        .map(number),
    });
  }
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        say();
      }}
    >
      {questions.map((q) => {
        const key = q.key as Key;
        const value = a[key];
        return (
          <div key={q.key} className="mb-2">
            <div className="d-flex justify-content-between small">
              <span className="fw-semibold">{q.name}</span>
              <span className="soft">{value ? q.words?.[value - 1] : `1 ${q.words?.[0]}, 5 ${q.words?.[4]}`}</span>
            </div>
            <div className="d-flex gap-1" role="group" aria-label={q.name}>
              {[1, 2, 3, 4, 5].map((n) => (
                <Button
                  key={n}
                  variant={value === n ? "primary" : "plain"}
                  className="tap flex-fill px-0"
                  aria-pressed={value === n}
                  aria-label={`${n}, ${q.words?.[n - 1]}`}
                  onClick={() => setA({ ...a, [key]: value === n ? null : n })}
                >
                  {n}
                </Button>
              ))}
            </div>
          </div>
        );
      })}
      <SportQuestion sport={sport} figures={figures} onSport={setSport} onFigures={setFigures} />
      {sport && (
        <Worked
          areas={areas.filter((x) => !NOT_WORKED.includes(x.key))}
          loaded={a.loaded ?? []}
          onLoaded={(loaded) => setA({ ...a, loaded })}
        />
      )}
      <PainQuestion
        areas={areas}
        hurts={hurts}
        pain={pain}
        isMissing={missing}
        told={openPain.map((p) => p.words)}
        onHurts={setHurts}
        onPain={(now) => {
          setA({ ...a, pain: now });
          setMissing(false);
        }}
      />
      {withJumps && (
        <label className="small d-block mb-2">
          Jumps, cm, if they were measured
          <input
            className="form-control tap num"
            inputMode="decimal"
            placeholder="38.5 39 38"
            value={jumps}
            onChange={(e) => setJumps(e.target.value)}
          />
        </label>
      )}
      <Button type="submit" className="tap w-100" disabled={busy}>
        {label}
      </Button>
    </form>
  );
}

const NOT_WORKED = ["elsewhere", "unwell"];

interface WorkedProps {
  areas: Choice[];
  loaded: string[];
  onLoaded: (loaded: string[]) => void;
}

/** What practice has worked today: it does not hurt, there is less of it. */
function Worked({ areas, loaded, onLoaded }: WorkedProps) {
  const [open, setOpen] = useState(loaded.length > 0);
  if (!open)
    return (
      <Button variant="link" className="tap p-0 mb-1" onClick={() => setOpen(true)}>
        It worked something hard today …
      </Button>
    );
  return (
    <div className="mb-2">
      <div className="small fw-semibold">Worked hard by practice today: less of it, nothing hurts</div>
      <Places label="Worked hard by practice today" areas={areas} chosen={loaded} onChoose={onLoaded} />
    </div>
  );
}

type Figures = { minutes: string; srpe: string; hours: string };

interface SportProps {
  sport: string;
  figures: Figures;
  onSport: (sport: string) => void;
  onFigures: (figures: Figures) => void;
}

/** What the sport did to them since yesterday. */
function SportQuestion({ sport, figures, onSport, onFigures }: SportProps) {
  return (
    <div className="mb-2">
      <div className="small fw-semibold">Sport since yesterday</div>
      <div className="d-flex gap-1" role="group" aria-label="Sport since yesterday">
        {SPORTS.map((s) => (
          <Button
            key={s}
            variant={sport === s ? "primary" : "plain"}
            className="tap flex-fill px-1"
            aria-pressed={sport === s}
            onClick={() => onSport(sport === s ? "" : s)}
          >
            {s}
          </Button>
        ))}
      </div>
      {sport && (
        <div className="d-flex gap-2 mt-1">
          {(
            [
              ["minutes", "minutes"],
              ["srpe", "hard, 0–10"],
              ["hours", "hours ago"],
            ] as const
          ).map(([key, name]) => (
            <label key={key} className="small flex-fill">
              {name}
              <input
                className="form-control tap num"
                inputMode="decimal"
                value={figures[key]}
                onChange={(e) => onFigures({ ...figures, [key]: e.target.value })}
              />
            </label>
          ))}
        </div>
      )}
    </div>
  );
}

interface PainProps {
  areas: Choice[];
  hurts: boolean;
  pain: string[];
  isMissing: boolean;
  told: string[];
  onHurts: (hurts: boolean) => void;
  onPain: (pain: string[]) => void;
}

/** Whether something hurts, and where: a pain without a place would be left out of everything. */
function PainQuestion({ areas, hurts, pain, isMissing, told, onHurts, onPain }: PainProps) {
  return (
    <div className="mb-2">
      <div className="d-flex gap-2 align-items-center">
        <span className="small fw-semibold">Pain?</span>
        <Button variant={!hurts ? "primary" : "plain"} className="tap" aria-pressed={!hurts} onClick={() => onHurts(false)}>
          No
        </Button>
        <Button variant={hurts ? "primary" : "plain"} className="tap" aria-pressed={hurts} onClick={() => onHurts(true)}>
          Yes
        </Button>
      </div>
      {told.length > 0 && <p className="small m-0">Last time: {told.join("; ")}. Still so?</p>}
      {hurts && <Places label="Where" areas={areas} chosen={pain} onChoose={onPain} />}
      {isMissing && (
        <div role="alert" className="trouble mt-1">
          Where does it hurt? Choose a place, or “Somewhere else”.
        </div>
      )}
    </div>
  );
}

interface PlacesProps {
  label: string;
  areas: Choice[];
  chosen: string[];
  onChoose: (chosen: string[]) => void;
}

/** Places of the body, as many as are meant. */
function Places({ label, areas, chosen, onChoose }: PlacesProps) {
  return (
    <div className="d-flex flex-wrap gap-1 mt-1" role="group" aria-label={label}>
      {areas.map((area) => {
        const on = chosen.includes(area.key);
        return (
          <Button
            key={area.key}
            variant={on ? "primary" : "plain"}
            className="tap"
            aria-pressed={on}
            onClick={() => onChoose(on ? chosen.filter((k) => k !== area.key) : [...chosen, area.key])}
          >
            {area.name}
          </Button>
        );
      })}
    </div>
  );
}
