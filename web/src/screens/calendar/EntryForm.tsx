import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, problemOf, signedInAs, type Problem, type Schemas } from "../../api/client";
import { stale } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { newKey } from "../../logic/keys";
import { TypedList, type Typed } from "../../logic/typed";
import { dayYear } from "../../parts/dates";
import { Trouble } from "../../parts/states";
import { ScopeSelect } from "./ScopeSelect";

type Calendar = Schemas["CalendarOut"];
type Entry = Schemas["NewEntry"];
interface Waiting extends Typed<Entry> {
  problem: Problem | null;
}

/**
 * Entries one after another, as fast as they are typed: each leaves the form at once and is stored behind it, in its turn. What a
 * page that was left had not stored yet is sent by the next that is opened.
 */
function useEntries(id: number) {
  const client = useQueryClient();
  const [kept] = useState(() => new TypedList<Entry>(`calendar of ${id} by ${signedInAs()}`, localStorage));
  const [waiting, setWaiting] = useState<Waiting[]>(() => kept.all().map((x) => ({ ...x, problem: null })));
  const line = useRef(Promise.resolve());
  const send = useCallback(
    ({ key, entry }: Typed<Entry>) => {
      line.current = line.current.then(async () => {
        try {
          const params = { path: { athlete_id: id }, header: { "Idempotency-Key": key } };
          await need(api.POST("/api/athletes/{athlete_id}/calendar", { params, body: entry }));
          kept.remove(key);
          setWaiting((all) => all.filter((w) => w.key !== key));
          void stale.afterPlan(client);
        } catch (error) {
          setWaiting((all) => all.map((w) => (w.key === key ? { ...w, problem: problemOf(error) } : w)));
        }
      });
    },
    [client, id, kept],
  );
  useEffect(() => kept.all().forEach(send), [kept, send]);
  return {
    waiting,
    add: (entry: Entry) => {
      const item = { key: newKey(), entry };
      kept.add(item);
      setWaiting((all) => [...all, { ...item, problem: null }]);
      send(item);
    },
    again: (w: Waiting) => {
      setWaiting((all) => all.map((x) => (x.key === w.key ? { ...x, problem: null } : x)));
      send(w);
    },
    drop: (w: Waiting) => {
      kept.remove(w.key);
      setWaiting((all) => all.filter((x) => x.key !== w.key));
    },
  };
}

export function EntryForm({ id, calendar: c }: { id: number; calendar: Calendar }) {
  const [kind, setKind] = useState(c.kinds[0]?.id ?? "match");
  const [name, setName] = useState("");
  const [start, setStart] = useState("");
  const [end, setEnd] = useState("");
  const [scope, setScope] = useState("squad");
  const nameField = useRef<HTMLInputElement>(null);
  const entries = useEntries(id);
  const isOneDay = c.kinds.find((k) => k.id === kind)?.is_one_day ?? false;
  return (
    <div className="border-top">
      <Form
        className="pad d-flex flex-wrap gap-2 align-items-end"
        aria-label="Add to the calendar"
        onSubmit={(e) => {
          e.preventDefault();
          entries.add({ kind, name, start, end: isOneDay ? null : end || null, scope });
          setName("");
          setStart("");
          setEnd("");
          nameField.current?.focus();
        }}
      >
        <Form.Group controlId="entry-kind">
          <Form.Label className="small mb-0">Kind</Form.Label>
          <Form.Select size="sm" value={kind} onChange={(e) => setKind(e.target.value)}>
            {c.kinds.map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="entry-name">
          <Form.Label className="small mb-0">Name</Form.Label>
          <Form.Control
            size="sm"
            ref={nameField}
            value={name}
            maxLength={80}
            required
            onChange={(e) => setName(e.target.value)}
            style={{ width: 150 }}
          />
        </Form.Group>
        <Form.Group controlId="entry-start">
          <Form.Label className="small mb-0">From</Form.Label>
          <Form.Control size="sm" type="date" value={start} required onChange={(e) => setStart(e.target.value)} />
        </Form.Group>
        {!isOneDay && (
          <Form.Group controlId="entry-end">
            <Form.Label className="small mb-0">To</Form.Label>
            <Form.Control size="sm" type="date" value={end} onChange={(e) => setEnd(e.target.value)} />
          </Form.Group>
        )}
        <ScopeSelect id="entry-scope" calendar={c} value={scope} onChange={setScope} />
        <Button size="sm" type="submit">
          Add it
        </Button>
      </Form>
      {entries.waiting.length > 0 && (
        <ul className="list-unstyled pad pt-0 mb-0" aria-label="Not stored yet">
          {entries.waiting.map((w) => (
            <li key={w.key}>
              {w.entry.name} <span className="soft">· {dayYear(w.entry.start)}</span>{" "}
              {w.problem === null ? (
                <span className="soft small">being stored …</span>
              ) : (
                <>
                  <Trouble problem={w.problem} />
                  <Button size="sm" variant="plain" className="mt-1 me-2" onClick={() => entries.again(w)}>
                    Try again
                  </Button>
                  <Button
                    size="sm"
                    variant="plain"
                    className="mt-1"
                    onClick={() => {
                      setKind(w.entry.kind);
                      setName(w.entry.name);
                      setStart(w.entry.start);
                      setEnd(w.entry.end ?? "");
                      entries.drop(w);
                    }}
                  >
                    Change it
                  </Button>
                </>
              )}
            </li>
          ))}
        </ul>
      )}
      <ListForm id={id} kind={kind} scope={scope} kindName={c.kinds.find((k) => k.id === kind)?.name ?? ""} />
    </div>
  );
}

/** A fixture list as it was sent: pasted, one event a line; all of it is stored, or nothing. */
function ListForm({ id, kind, scope, kindName }: { id: number; kind: string; scope: string; kindName: string }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const add = useAction((body: Schemas["NewList"]) =>
    need(api.POST("/api/athletes/{athlete_id}/calendar/list", { params: { path: { athlete_id: id } }, body })),
  );
  if (!open)
    return (
      <button type="button" className="btn btn-link btn-sm mx-2 mb-2" onClick={() => setOpen(true)}>
        Paste a list
      </button>
    );
  return (
    <form
      className="pad pt-0"
      aria-label="Paste a list"
      onSubmit={(e) => {
        e.preventDefault();
        add.run({ kind, text, scope }, () => {
          setText("");
          setOpen(false);
        });
      }}
    >
      <label className="small d-block">
        One a line, a day and a name: each becomes “{kindName.toLowerCase()}”
        <textarea
          className="form-control form-control-sm num"
          rows={6}
          required
          autoFocus
          placeholder={"5 Dec  Harbour home\n12.12.2026  Reef away\n2027-01-08 to 2027-01-10  Coast cup"}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
      {add.problem && <Trouble problem={add.problem} />}
      <Button size="sm" type="submit" className="mt-2 me-2" disabled={add.isPending}>
        Add them all
      </Button>
      <Button size="sm" variant="plain" className="mt-2" onClick={() => setOpen(false)}>
        Close
      </Button>
    </form>
  );
}
