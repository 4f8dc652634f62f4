import { useState } from "react";
import Form from "react-bootstrap/Form";

import { useNames } from "../api/hooks";

const SEARCHED_FROM = 20; // a list this long is found by typing too

interface Props {
  id: string;
  value: string;
  onChoose: (of: string) => void;
  /** The name of everybody, where a page can show the whole centre. */
  everybody?: string;
}

/** Whose a page shows: a squad, an athlete, or the whole centre; "squad-3", "athlete-7" or nothing. Long lists are narrowed by typing. */
export function WhoseSelect({ id, value, onChoose, everybody }: Props) {
  const squads = useNames();
  const [typed, setTyped] = useState("");
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const all = squads.data ?? [];
  const isLong = all.reduce((n, s) => n + s.athletes.length, 0) > SEARCHED_FROM;
  const fits = (...of: string[]) => words.every((w) => of.join(" ").toLowerCase().includes(w));
  const shown = all
    .map((s) => ({
      ...s,
      isHere: fits(s.name) || value === `squad-${s.id}`,
      athletes: s.athletes.filter((a) => fits(a.name, a.group, s.name) || value === `athlete-${a.id}`),
    }))
    .filter((s) => s.isHere || s.athletes.length > 0);
  const first = shown.flatMap((s) => [
    ...(s.isHere ? [`squad-${s.id}`] : []),
    ...s.athletes.filter((a) => fits(a.name, a.group, s.name)).map((a) => `athlete-${a.id}`),
  ])[0];
  return (
    <div className="d-flex gap-2 align-items-end">
      {isLong && (
        <Form.Control
          size="sm"
          type="search"
          style={{ width: 130 }}
          aria-label="Narrow the list by typing"
          placeholder="Name or group"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && typed && first) {
              e.preventDefault();
              setTyped("");
              onChoose(first);
            }
          }}
        />
      )}
      <Form.Group controlId={id}>
        <Form.Label className="small mb-0">Of</Form.Label>
        <Form.Select size="sm" value={value} onChange={(e) => onChoose(e.target.value)}>
          {everybody && <option value="">{everybody}</option>}
          {shown.map((s) => (
            <optgroup key={s.id} label={s.name}>
              {s.isHere && <option value={`squad-${s.id}`}>all of {s.name}</option>}
              {s.athletes.map((a) => (
                <option key={a.id} value={`athlete-${a.id}`}>
                  {a.name}
                </option>
              ))}
            </optgroup>
          ))}
        </Form.Select>
      </Form.Group>
    </div>
  );
}
