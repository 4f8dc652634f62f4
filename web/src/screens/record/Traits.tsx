import { useState } from "react";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useAction } from "../../api/useAction";
import { Trouble } from "../../parts/states";

type Rec = Schemas["RecordOut"];
const HEADINGS = [
  { kind: "goal", name: "Goals" },
  { kind: "style", name: "Style" },
  { kind: "build", name: "Build" },
  { kind: "past", name: "Past sports" },
];

/** What can be ticked of an athlete, each saved as it is ticked. */
export function Traits({ record: r }: { record: Rec }) {
  const [ticked, setTicked] = useState<string[]>(r.traits);
  const { problem, isPending, run } = useAction(({ trait, is_true }: { trait: string; is_true: boolean }) =>
    need(
      api.PUT("/api/athletes/{athlete_id}/traits/{trait}", { params: { path: { athlete_id: r.athlete_id, trait } }, body: { is_true } }),
    ),
  );
  const tick = (trait: string, on: boolean) => {
    setTicked((before) => (on ? [...before, trait] : before.filter((t) => t !== trait)));
    run({ trait, is_true: on });
  };
  return (
    <section className="sheet pad mb-3" aria-busy={isPending}>
      <h2>What chooses exercises</h2>
      <p className="soft small mb-2">Tick what is true. Each brings exercises or small work into the week, and the line says why.</p>
      {HEADINGS.map((h) => {
        const rows = r.trait_choices.filter((t) => t.kind === h.kind);
        if (rows.length === 0) return null;
        return (
          <fieldset key={h.kind} className="mb-2">
            <legend className="ticks-of mb-1">{h.name}</legend>
            <div className="tick-list">
              {rows.map((t) => (
                <Form.Check
                  key={t.id}
                  id={`trait-${t.id}`}
                  label={t.name}
                  title={t.asks}
                  checked={ticked.includes(t.id)}
                  onChange={(e) => tick(t.id, e.target.checked)}
                />
              ))}
            </div>
          </fieldset>
        );
      })}
      {problem && <Trouble problem={problem} />}
    </section>
  );
}
