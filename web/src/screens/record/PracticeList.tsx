import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { firstProblem, useAction } from "../../api/useAction";
import { hour } from "../../parts/dates";
import { Trouble } from "../../parts/states";
import { NumberField } from "../../parts/NumberField";

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** Sport practice, of the squad and of a second sport: the weeks are laid around it. */
export function PracticeList({ record: r }: { record: Schemas["RecordOut"] }) {
  const [typed, setTyped] = useState({
    weekday: "0",
    time: "18:00",
    minutes: "90",
    hardness: "6",
    own: false,
    sport: "",
    since: "",
    until: "",
  });
  const add = useAction((body: Schemas["NewPractice"]) =>
    need(api.POST("/api/athletes/{athlete_id}/practices", { params: { path: { athlete_id: r.athlete_id } }, body })),
  );
  const drop = useAction((id: number) =>
    need(
      api.DELETE("/api/athletes/{athlete_id}/practices/{practice_id}", { params: { path: { athlete_id: r.athlete_id, practice_id: id } } }),
    ),
  );
  const problem = firstProblem(add, drop);
  const set = (part: Partial<typeof typed>) => setTyped({ ...typed, ...part });
  return (
    <section className="sheet pad mb-3">
      <h2>Sport practice</h2>
      {r.practices.length === 0 && <p className="soft mb-1">None recorded. Weeks are laid around it.</p>}
      <PracticeRows record={r} onTakeOut={(id) => drop.run(id)} />
      <Form
        className="d-flex flex-wrap gap-2 align-items-end mt-2"
        onSubmit={(e) => {
          e.preventDefault();
          const [h = "0", m = "0"] = typed.time.split(":");
          add.run({
            weekday: Number(typed.weekday),
            hour: Number(h) + Number(m) / 60,
            minutes: Number(typed.minutes),
            hardness: Number(typed.hardness),
            own: typed.own,
            sport: typed.sport,
            since: typed.since || null,
            until: typed.until || null,
          });
        }}
      >
        <Form.Group controlId="pr-day">
          <Form.Label className="small mb-0">Day</Form.Label>
          <Form.Select size="sm" value={typed.weekday} onChange={(e) => set({ weekday: e.target.value })}>
            {DAYS.map((d, i) => (
              <option key={d} value={i}>
                {d}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="pr-time">
          <Form.Label className="small mb-0">Time</Form.Label>
          <Form.Control size="sm" type="time" value={typed.time} onChange={(e) => set({ time: e.target.value })} required />
        </Form.Group>
        <NumberField
          id="pr-min"
          label="min"
          width={70}
          isWhole
          value={typed.minutes}
          onChange={(e) => set({ minutes: e.target.value })}
          required
        />
        <NumberField
          id="pr-hard"
          label="RPE, 1–10"
          width={92}
          isWhole
          value={typed.hardness}
          onChange={(e) => set({ hardness: e.target.value })}
          required
        />
        <Form.Group controlId="pr-since">
          <Form.Label className="small mb-0">From, if later</Form.Label>
          <Form.Control size="sm" type="date" value={typed.since} onChange={(e) => set({ since: e.target.value })} />
        </Form.Group>
        <Form.Group controlId="pr-until">
          <Form.Label className="small mb-0">Until, if it ends</Form.Label>
          <Form.Control size="sm" type="date" value={typed.until} onChange={(e) => set({ until: e.target.value })} />
        </Form.Group>
        <Form.Group controlId="pr-whom">
          <Form.Label className="small mb-0">For</Form.Label>
          <Form.Select size="sm" value={typed.own ? "own" : "squad"} onChange={(e) => set({ own: e.target.value === "own" })}>
            <option value="squad">all of {r.squad}</option>
            <option value="own">{r.athlete_name}</option>
          </Form.Select>
        </Form.Group>
        {typed.own && (
          <Form.Group controlId="pr-sport" style={{ width: 110 }}>
            <Form.Label className="small mb-0">Sport</Form.Label>
            <Form.Control size="sm" value={typed.sport} maxLength={40} onChange={(e) => set({ sport: e.target.value })} />
          </Form.Group>
        )}
        <Button size="sm" type="submit" variant="plain" disabled={add.isPending}>
          Add the practice
        </Button>
      </Form>
      {problem && <Trouble problem={problem} />}
    </section>
  );
}

function PracticeRows({ record: r, onTakeOut }: { record: Schemas["RecordOut"]; onTakeOut: (id: number) => void }) {
  return (
    <>
      {r.practices.map((p) => (
        <div key={p.id} className="d-flex border-top py-1">
          <span>
            {DAYS[p.weekday]} {hour(p.hour)}{" "}
            <span className="soft">
              · {p.minutes} min · RPE {p.hardness} · {p.own ? p.sport || "own" : r.squad}
              {p.goes_on && ` · ${p.goes_on}`}
            </span>
          </span>
          <button
            type="button"
            className="btn btn-link btn-sm p-0 ms-auto"
            aria-label={`Take out ${DAYS[p.weekday] ?? ""} ${hour(p.hour)}`}
            onClick={() => onTakeOut(p.id)}
          >
            Take out
          </button>
        </div>
      ))}
    </>
  );
}
