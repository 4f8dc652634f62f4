import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { usePlanChange } from "../../api/hooks";
import { Trouble } from "../../parts/states";

export function CompetitionForm({ athleteId }: { athleteId: number }) {
  const [name, setName] = useState("");
  const [day, setDay] = useState("");
  const [preview, setPreview] = useState<string[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const params = { path: { athlete_id: athleteId } };
  const add = usePlanChange((body: Schemas["NewCompetition"]) =>
    need(api.POST("/api/athletes/{athlete_id}/competitions", { params, body })),
  );

  async function look(value: string) {
    setDay(value);
    setProblem(null);
    setPreview([]);
    if (!/^20\d\d-\d\d-\d\d$/.test(value)) return;
    try {
      const body = { name: name || "competition", day: value };
      setPreview(await need(api.POST("/api/athletes/{athlete_id}/competitions/preview", { params, body })));
    } catch (error) {
      setProblem(problemOf(error));
    }
  }

  return (
    <Form
      className="sheet pad"
      style={{ maxWidth: 620 }}
      onSubmit={(e) => {
        e.preventDefault();
        setProblem(null);
        add.mutate({ name, day }, { onError: (error) => setProblem(problemOf(error)) });
      }}
    >
      <div className="d-flex gap-3 align-items-end flex-wrap">
        <Form.Group controlId="competition-name" style={{ width: 260 }}>
          <Form.Label>Competition</Form.Label>
          <Form.Control value={name} onChange={(e) => setName(e.target.value)} required maxLength={80} />
        </Form.Group>
        <Form.Group controlId="competition-day">
          <Form.Label>Day</Form.Label>
          <Form.Control type="date" value={day} onChange={(e) => void look(e.target.value)} required />
        </Form.Group>
        <Button type="submit" disabled={add.isPending}>
          Build the season
        </Button>
      </div>
      {preview.length > 0 && (
        <p className="says mt-3 mb-0" role="status">
          {preview.join(" · ")}
        </p>
      )}
      {problem && (
        <div className="mt-3">
          <Trouble problem={problem} />
        </div>
      )}
      <p className="soft small mt-3 mb-0">
        Force–velocity progression: good for combat and field sport that must turn strength into speed. Weak where competitions follow each other
        closely. It plans for a qualified coach; local rules and licensed professionals come first.
      </p>
    </Form>
  );
}
