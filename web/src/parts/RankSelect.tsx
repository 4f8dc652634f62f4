import Form from "react-bootstrap/Form";

import type { Schemas } from "../api/client";

interface Props {
  name: string;
  value: string;
  ranks: Schemas["ChoiceWords"][];
  disabled?: boolean;
  onChange: (rank: string) => void;
}

/** How much a competition counts. */
export function RankSelect({ name, value, ranks, disabled, onChange }: Props) {
  return (
    <Form.Select
      size="sm"
      style={{ minWidth: "8.5em" }}
      aria-label={`Rank of ${name}`}
      value={value}
      disabled={disabled}
      onChange={(e) => onChange(e.target.value)}
    >
      {ranks.map((r) => (
        <option key={r.id} value={r.id}>
          {r.name}
        </option>
      ))}
    </Form.Select>
  );
}
