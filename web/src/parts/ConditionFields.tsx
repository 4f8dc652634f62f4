import { useId } from "react";
import Form from "react-bootstrap/Form";

import type { Schemas } from "../api/client";

interface Props {
  kinds: Schemas["ConditionOut"][];
  chosen: Record<string, string>;
  onChoose: (chosen: Record<string, string>) => void;
}

/** How the bar is racked and gripped, and what supports the body; what is left “as usual” is compared with everything that is. */
export function ConditionFields({ kinds, chosen, onChoose }: Props) {
  const id = useId();
  return kinds.map((k) => (
    <Form.Group key={k.id} controlId={`${id}-${k.id}`}>
      <Form.Label className="small mb-0">{k.name}</Form.Label>
      <Form.Select value={chosen[k.id] ?? ""} onChange={(e) => onChoose({ ...chosen, [k.id]: e.target.value })}>
        <option value="">as usual</option>
        {k.choices.map((c) => (
          <option key={c.id} value={c.id}>
            {c.name}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  ));
}
