import { useId } from "react";
import Form from "react-bootstrap/Form";

interface Props {
  unit: string;
  dayOrder: string;
  onChange: (unit: string, dayOrder: string) => void;
  /** What nothing chosen means; without it something is always chosen. */
  asCentre?: boolean;
}

/** In which unit masses stand, and how days are written. */
export function HabitFields({ unit, dayOrder, onChange, asCentre = false }: Props) {
  const id = useId();
  const wide = asCentre ? "col-12" : "col-6"; // in a menu there is room for one
  return (
    <div className="row g-2 mb-3">
      <Form.Group controlId={`${id}-unit`} className={wide}>
        <Form.Label>Units</Form.Label>
        <Form.Select value={unit} onChange={(e) => onChange(e.target.value, dayOrder)}>
          {asCentre && <option value="">as the centre</option>}
          <option value="kg">kilograms</option>
          <option value="lb">pounds</option>
        </Form.Select>
      </Form.Group>
      <Form.Group controlId={`${id}-days`} className={wide}>
        <Form.Label>Dates</Form.Label>
        <Form.Select value={dayOrder} onChange={(e) => onChange(unit, e.target.value)}>
          {asCentre && <option value="">as the centre</option>}
          <option value="day first">4 Nov 2026</option>
          <option value="month first">Nov 4, 2026</option>
        </Form.Select>
      </Form.Group>
    </div>
  );
}
