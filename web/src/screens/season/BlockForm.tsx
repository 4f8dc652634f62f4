import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { NumberField } from "../../parts/NumberField";
import { Trouble } from "../../parts/states";

interface Props {
  athleteId: number;
  answer: Schemas["SeasonAnswer"];
  scope?: string;
  onDone?: () => void;
}

/** A block of weeks with no competition at its end: it begins this week, after the last block, or on a day that is given. */
export function BlockForm({ athleteId, answer, scope = "athlete", onDone }: Props) {
  const [weeks, setWeeks] = useState(String(answer.usual_block_weeks));
  const [way, setWay] = useState(answer.block_ways[0]?.id ?? "");
  const [starts, setStarts] = useState("");
  const [hasTests, setHasTests] = useState(false);
  const add = useAction((body: Schemas["BlockIn"]) =>
    need(api.POST("/api/athletes/{athlete_id}/blocks", { params: { path: { athlete_id: athleteId } }, body })),
  );
  return (
    <form
      className="sheet pad"
      style={{ maxWidth: 720 }}
      aria-label="A block of weeks"
      onSubmit={(e) => {
        e.preventDefault();
        const body = { name: "", starts: starts || null, weeks: typedNumber(weeks) ?? 0, way, has_test_week: hasTests, scope };
        add.run(body, () => onDone?.());
      }}
    >
      <div className="d-flex gap-3 align-items-end flex-wrap">
        <NumberField label="Weeks" isWhole width={72} value={weeks} onChange={(e) => setWeeks(e.target.value)} />
        <Form.Group controlId="block-way">
          <Form.Label className="small mb-0">Laid out</Form.Label>
          <Form.Select size="sm" value={way} onChange={(e) => setWay(e.target.value)}>
            {answer.block_ways.map((w) => (
              <option key={w.id} value={w.id}>
                {w.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="block-starts">
          <Form.Label className="small mb-0">Begins, if not now</Form.Label>
          <Form.Control size="sm" type="date" value={starts} onChange={(e) => setStarts(e.target.value)} />
        </Form.Group>
        <Form.Check
          id="block-tests"
          className="mb-1"
          label="Last week is a test week"
          checked={hasTests}
          onChange={(e) => setHasTests(e.target.checked)}
        />
        <Button size="sm" type="submit" disabled={add.isPending}>
          Plan the block
        </Button>
      </div>
      {add.problem && (
        <div className="mt-2">
          <Trouble problem={add.problem} />
        </div>
      )}
    </form>
  );
}
