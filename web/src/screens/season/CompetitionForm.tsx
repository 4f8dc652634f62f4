import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { useAction } from "../../api/useAction";
import { Trouble } from "../../parts/states";

interface Props {
  /** Through whom it is tried before it is kept; null where a squad has nobody yet. */
  athleteId: number | null;
  squadId?: number;
  ranks: Schemas["ChoiceWords"][];
  scope?: string;
  onDone?: () => void;
}

/** A competition with its rank; what it would do to the phases is said before it is kept. */
export function CompetitionForm({ athleteId, squadId, ranks, scope = "athlete", onDone }: Props) {
  const [name, setName] = useState("");
  const [day, setDay] = useState("");
  const [lastDay, setLastDay] = useState("");
  const [rank, setRank] = useState(ranks[0]?.id ?? "main");
  const [preview, setPreview] = useState<Schemas["SeasonPreviewOut"] | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const add = useAction(
    (body: Schemas["NewCompetition"]): Promise<unknown> =>
      squadId !== undefined
        ? need(api.POST("/api/squads/{squad_id}/competitions", { params: { path: { squad_id: squadId } }, body }))
        : need(api.POST("/api/athletes/{athlete_id}/competitions", { params: { path: { athlete_id: athleteId ?? 0 } }, body })),
    { say: setProblem },
  );

  async function look(value: string, as: string) {
    setProblem(null);
    setPreview(null);
    if (athleteId === null || !/^20\d\d-\d\d-\d\d$/.test(value)) return;
    try {
      const body = { name: name || "competition", day: value, rank: as, events: [], scope };
      setPreview(
        await need(api.POST("/api/athletes/{athlete_id}/competitions/preview", { params: { path: { athlete_id: athleteId } }, body })),
      );
    } catch (error) {
      setProblem(problemOf(error));
    }
  }

  return (
    <Form
      className="sheet pad"
      style={{ maxWidth: 720 }}
      onSubmit={(e) => {
        e.preventDefault();
        setProblem(null);
        add.run({ name, day, rank, last_day: lastDay || null, events: [], scope }, () => onDone?.());
      }}
    >
      <div className="d-flex gap-3 align-items-end flex-wrap">
        <Form.Group controlId="competition-name" style={{ width: 240 }}>
          <Form.Label>Competition</Form.Label>
          <Form.Control value={name} onChange={(e) => setName(e.target.value)} required maxLength={80} />
        </Form.Group>
        <Form.Group controlId="competition-day">
          <Form.Label>Day</Form.Label>
          <Form.Control
            type="date"
            value={day}
            onChange={(e) => {
              setDay(e.target.value);
              void look(e.target.value, rank);
            }}
            required
          />
        </Form.Group>
        <Form.Group controlId="competition-last">
          <Form.Label>Last day, if more than one</Form.Label>
          <Form.Control type="date" value={lastDay} onChange={(e) => setLastDay(e.target.value)} />
        </Form.Group>
        <Form.Group controlId="competition-rank">
          <Form.Label>Rank</Form.Label>
          <Form.Select
            value={rank}
            onChange={(e) => {
              setRank(e.target.value);
              void look(day, e.target.value);
            }}
          >
            {ranks.map((r) => (
              <option key={r.id} value={r.id}>
                {r.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Button type="submit" disabled={add.isPending}>
          {onDone ? "Add it" : "Build the season"}
        </Button>
        {onDone && (
          <Button variant="plain" onClick={onDone}>
            Cancel
          </Button>
        )}
      </div>
      {preview && (
        <p className="says mt-3 mb-0" role="status">
          {[...preview.phases, ...preview.decisions].join(" · ")}
        </p>
      )}
      {problem && (
        <div className="mt-3">
          <Trouble problem={problem} />
        </div>
      )}
      <p className="soft small mt-3 mb-0">It plans for a qualified coach; local rules and licensed professionals come first.</p>
    </Form>
  );
}
