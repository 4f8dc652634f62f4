import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import type { Problem, Schemas } from "../../api/client";
import { Trouble } from "../../parts/states";

interface Props {
  all: Schemas["PeopleOut"];
  person?: Schemas["PersonOut"];
  label: string;
  button: string;
  busy: boolean;
  problem: Problem | null;
  onSave: (body: Schemas["PersonIn"]) => void;
}

/** A person: what they are called, what they may do, and for whom. */
export function PersonForm({ all, person, label, button, busy, problem, onSave }: Props) {
  const [name, setName] = useState(person?.name ?? "");
  const [role, setRole] = useState(person?.role ?? "coach");
  const [squads, setSquads] = useState<number[]>(person?.squads ?? (all.squads.length === 1 ? all.squads.map((s) => s.id) : []));
  const [mayLog, setMayLog] = useState(person?.may_log ?? false);
  const said = (id: number | null | undefined) => {
    const found = all.athletes.find((a) => a.id === id);
    return found ? `${found.name}, ${found.squad}` : "";
  };
  const [athlete, setAthlete] = useState(said(person?.athlete_id));
  const chosen = all.roles.find((r) => r.id === role);
  const id = person ? `person-${person.id}` : "person-new";
  const who = all.athletes.find((a) => said(a.id) === athlete);
  return (
    <form
      aria-label={label}
      onSubmit={(e) => {
        e.preventDefault();
        onSave({ name: name || (who?.name ?? ""), role: role as Schemas["Role"], squads, athlete_id: who?.id ?? null, may_log: mayLog });
      }}
    >
      <div className="d-flex flex-wrap gap-3 align-items-end">
        <Form.Group controlId={`${id}-role`}>
          <Form.Label className="small mb-0">Role</Form.Label>
          <Form.Select value={role} onChange={(e) => setRole(e.target.value)}>
            {all.roles.map((r) => (
              <option key={r.id} value={r.id}>
                {r.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        {role === "athlete" && (
          <Form.Group controlId={`${id}-athlete`}>
            <Form.Label className="small mb-0">Which athlete</Form.Label>
            <Form.Control
              list={`${id}-athletes`}
              placeholder="Type a name"
              value={athlete}
              style={{ minWidth: 260 }}
              onChange={(e) => setAthlete(e.target.value)}
            />
            <datalist id={`${id}-athletes`}>
              {all.athletes.map((a) => (
                <option key={a.id} value={said(a.id)} />
              ))}
            </datalist>
          </Form.Group>
        )}
        <Form.Group controlId={`${id}-name`}>
          <Form.Label className="small mb-0">Name</Form.Label>
          <Form.Control
            value={name}
            maxLength={80}
            placeholder={who?.name ?? ""}
            required={role !== "athlete"}
            onChange={(e) => setName(e.target.value)}
          />
        </Form.Group>
        <Button type="submit" disabled={busy}>
          {button}
        </Button>
      </div>
      <p className="soft small mt-2 mb-1">{chosen?.words}</p>
      {chosen?.of_squads && (
        <fieldset className="d-flex flex-wrap gap-3">
          <legend className="small mb-0 float-none w-auto">Squads</legend>
          {all.squads.map((s) => (
            <Form.Check
              key={s.id}
              id={`${id}-squad-${s.id}`}
              label={s.name}
              checked={squads.includes(s.id)}
              onChange={(e) => setSquads(e.target.checked ? [...squads, s.id] : squads.filter((x) => x !== s.id))}
            />
          ))}
          {all.squads.length === 0 && <span className="soft small">No squad yet. A coach makes their own by adding athletes.</span>}
        </fieldset>
      )}
      {role === "athlete" && (
        <Form.Check id={`${id}-log`} label="May log their own sets" checked={mayLog} onChange={(e) => setMayLog(e.target.checked)} />
      )}
      {problem && (
        <div className="mt-2">
          <Trouble problem={problem} />
        </div>
      )}
    </form>
  );
}
