import Form from "react-bootstrap/Form";

import type { Schemas } from "../../api/client";

type Calendar = Schemas["CalendarOut"];

export function ScopeSelect({
  id,
  calendar,
  value,
  onChange,
}: {
  id: string;
  calendar: Calendar;
  value: string;
  onChange: (scope: string) => void;
}) {
  return (
    <Form.Group controlId={id}>
      <Form.Label className="small mb-0">For</Form.Label>
      <Form.Select size="sm" value={value} onChange={(e) => onChange(e.target.value)}>
        <option value="squad">all of {calendar.squad}</option>
        {calendar.group && <option value="group">all {calendar.group}</option>}
        <option value="athlete">{calendar.athlete_name}</option>
      </Form.Select>
    </Form.Group>
  );
}
