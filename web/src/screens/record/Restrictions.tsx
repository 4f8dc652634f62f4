import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useMe } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { dayYear } from "../../parts/dates";
import { Trouble } from "../../parts/states";

type Rec = Schemas["RecordOut"];

export function Restrictions({ record: r }: { record: Rec }) {
  const [open, setOpen] = useState(false);
  const [clearing, setClearing] = useState<number | null>(null);
  const lift = useAction((id: number) =>
    need(api.POST("/api/restrictions/{restriction_id}/lift", { params: { path: { restriction_id: id } } })),
  );
  return (
    <section className="sheet pad mb-3">
      <div className="d-flex">
        <h2>Restrictions</h2>
        <Button size="sm" variant="plain" className="ms-auto" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Close" : "Add a restriction"}
        </Button>
      </div>
      {r.restrictions.length === 0 && (
        <p className="soft mb-1">None. Exercises that break one are replaced by the nearest that does not.</p>
      )}
      {r.restrictions.map((x) => (
        <div key={x.id} className="d-flex gap-2 border-top py-1" style={x.is_open ? undefined : { opacity: 0.75 }}>
          <span>
            <b>{x.words}</b>
            {x.side && ` (${x.side})`}{" "}
            <span className="soft">
              · takes out {x.tag.replace("_", " ")} · set by the {x.set_by}, {dayYear(x.since)}
              {x.until ? ` to ${dayYear(x.until)}` : ", until lifted"}
              {x.cleared_by &&
                ` · cleared for the conservative test by the ${x.cleared_by}${x.cleared_on ? `, ${dayYear(x.cleared_on)}` : ""}`}
            </span>
          </span>
          {x.is_open && (
            <span className="ms-auto text-nowrap">
              {!x.cleared_by && (
                <button
                  type="button"
                  className="btn btn-link btn-sm p-0 me-3"
                  aria-label={`Cleared to test: ${x.words}`}
                  onClick={() => setClearing(x.id)}
                >
                  Cleared to test
                </button>
              )}
              <button
                type="button"
                className="btn btn-link btn-sm p-0"
                aria-label={`End the restriction: ${x.words}`}
                onClick={() => lift.run(x.id)}
              >
                End restriction
              </button>
            </span>
          )}
        </div>
      ))}
      {clearing !== null && <Clearing id={clearing} onDone={() => setClearing(null)} />}
      {open && <RestrictionForm record={r} onDone={() => setOpen(false)} />}
      {lift.problem && <Trouble problem={lift.problem} />}
    </section>
  );
}

/** Who cleared the athlete for the 10–15RM test while the restriction stands. */

function Clearing({ id, onDone }: { id: number; onDone: () => void }) {
  const [who, setWho] = useState("");
  const { problem, isPending, run } = useAction((cleared_by: string) =>
    need(api.POST("/api/restrictions/{restriction_id}/clear-for-test", { params: { path: { restriction_id: id } }, body: { cleared_by } })),
  );
  return (
    <Form
      className="d-flex flex-wrap gap-2 align-items-end border-top py-2"
      onSubmit={(e) => {
        e.preventDefault();
        run(who, onDone);
      }}
    >
      <Form.Group controlId="clear-by">
        <Form.Label className="small mb-0">Cleared for the conservative test by</Form.Label>
        <Form.Control
          size="sm"
          value={who}
          maxLength={60}
          placeholder="physiotherapist"
          onChange={(e) => setWho(e.target.value)}
          required
          autoFocus
        />
      </Form.Group>
      <Button size="sm" type="submit" disabled={isPending}>
        Note the clearance
      </Button>
      <Button size="sm" variant="plain" onClick={onDone}>
        Cancel
      </Button>
      {problem && <Trouble problem={problem} />}
    </Form>
  );
}

function RestrictionForm({ record: r, onDone }: { record: Rec; onDone: () => void }) {
  const today = useMe().data?.today ?? "";
  const [typed, setTyped] = useState({ tag: r.tags[0]?.id ?? "", words: "", side: "", set_by: "", since: today, until: "" });
  const { problem, isPending, run } = useAction((body: Schemas["NewRestriction"]) =>
    need(api.POST("/api/athletes/{athlete_id}/restrictions", { params: { path: { athlete_id: r.athlete_id } }, body })),
  );
  const set = (part: Partial<typeof typed>) => setTyped({ ...typed, ...part });
  return (
    <Form
      className="row g-2 mt-1"
      onSubmit={(e) => {
        e.preventDefault();
        run({ ...typed, until: typed.until || null }, onDone);
      }}
    >
      <Form.Group controlId="res-words" className="col-6">
        <Form.Label className="small mb-0">What</Form.Label>
        <Form.Control
          size="sm"
          value={typed.words}
          maxLength={120}
          placeholder="Left knee: no deep bending"
          onChange={(e) => set({ words: e.target.value })}
          required
        />
      </Form.Group>
      <Form.Group controlId="res-tag" className="col-3">
        <Form.Label className="small mb-0">Leaves out</Form.Label>
        <Form.Select size="sm" value={typed.tag} onChange={(e) => set({ tag: e.target.value })}>
          {r.tags.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="res-side" className="col-3">
        <Form.Label className="small mb-0">Side</Form.Label>
        <Form.Select size="sm" value={typed.side} onChange={(e) => set({ side: e.target.value })}>
          <option value="">both</option>
          <option value="left">left</option>
          <option value="right">right</option>
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="res-by" className="col-4">
        <Form.Label className="small mb-0">Set by</Form.Label>
        <Form.Control
          size="sm"
          value={typed.set_by}
          maxLength={60}
          placeholder="physiotherapist"
          onChange={(e) => set({ set_by: e.target.value })}
          required
        />
      </Form.Group>
      <Form.Group controlId="res-since" className="col-4">
        <Form.Label className="small mb-0">Since</Form.Label>
        <Form.Control size="sm" type="date" value={typed.since} onChange={(e) => set({ since: e.target.value })} required />
      </Form.Group>
      <Form.Group controlId="res-until" className="col-4">
        <Form.Label className="small mb-0">Until, if known</Form.Label>
        <Form.Control size="sm" type="date" value={typed.until} onChange={(e) => set({ until: e.target.value })} />
      </Form.Group>
      {problem && <Trouble problem={problem} />}
      <div>
        <Button size="sm" type="submit" disabled={isPending}>
          Save the restriction
        </Button>
      </div>
    </Form>
  );
}
