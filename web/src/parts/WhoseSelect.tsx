import Form from "react-bootstrap/Form";

import { useNames } from "../api/hooks";

interface Props {
  id: string;
  value: string;
  onChoose: (of: string) => void;
  /** The name of everybody, where a page can show the whole centre. */
  everybody?: string;
}

/** Whose a page shows: a squad, an athlete, or the whole centre; "squad-3", "athlete-7" or nothing. */
export function WhoseSelect({ id, value, onChoose, everybody }: Props) {
  const squads = useNames();
  return (
    <Form.Group controlId={id}>
      <Form.Label className="small mb-0">Of</Form.Label>
      <Form.Select size="sm" value={value} onChange={(e) => onChoose(e.target.value)}>
        {everybody && <option value="">{everybody}</option>}
        {squads.data?.map((s) => (
          <optgroup key={s.id} label={s.name}>
            <option value={`squad-${s.id}`}>all of {s.name}</option>
            {s.athletes.map((a) => (
              <option key={a.id} value={`athlete-${a.id}`}>
                {a.name}
              </option>
            ))}
          </optgroup>
        ))}
      </Form.Select>
    </Form.Group>
  );
}
