import { useState } from "react";

import { api, need } from "../../api/client";
import { useExercise, useNames } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { Failed, Loading, Trouble } from "../../parts/states";
import { COST } from "./cost";
import { OwnForm } from "./OwnForm";

interface Props {
  id: string;
  athlete: number | null;
  choices: Record<string, string[]>;
  gear: Record<string, string>;
}

export function ExerciseDetail({ id, athlete, choices, gear }: Props) {
  const found = useExercise(id, athlete);
  const squads = useNames();
  const [editing, setEditing] = useState(false);
  const back = useAction(() => need(api.DELETE("/api/library/{exercise_id}", { params: { path: { exercise_id: id } } })));
  if (found.isPending) return <Loading what="the exercise" />;
  if (found.isLoadingError) return <Failed error={found.error} again={() => void found.refetch()} />;
  const e = found.data;
  const name = squads.data?.flatMap((s) => s.athletes).find((a) => a.id === athlete)?.name;
  const facts: [string, string][] = [
    ["Pattern", `${e.row.pattern.replace("_", " ")}, ${e.row.region}${e.row.per_side ? ", each side on its own" : ""}`],
    ["Kind", `${e.row.kind}${e.row.kind === "drill" ? "" : `; ${e.velocity} velocity counts`}`],
    [
      "Cost",
      `${COST[e.row.cost] ?? e.row.cost} that day${e.tail_days ? `; near-max work is felt about ${e.tail_days} ${e.tail_days === 1 ? "day" : "days"}` : ""}`,
    ],
    ["Force–velocity zone", e.row.place],
    ["On the ground", e.plyometric],
    ["Running class", e.running],
    ["Variation of", e.variation_of],
    ["Usual tempo", e.tempo],
    ["A repetition", `${e.seconds_per_rep} s`],
    ["For whom", e.teaching],
    ["Works on", e.row.faults.join(", ")],
    ["Max", e.max_from],
    ["Care", e.cautions.join("; ")],
    ["Family", e.family.join(", ")],
  ];
  return (
    <section className="sheet pad">
      <h2>{e.row.name}</h2>
      <p className="cue">{e.cue}</p>
      <dl className="facts">
        {facts
          .filter(([, text]) => text)
          .map(([term, text]) => (
            <div key={term}>
              <dt>{term}</dt>
              <dd>{text}</dd>
            </div>
          ))}
      </dl>
      {e.chain.length > 0 && (
        <>
          <h3 className="h6 mt-2 mb-1">The same movement from strength to speed</h3>
          <ol className="chain">
            {e.chain.map((s) => (
              <li key={s.phase} className={s.is_this ? "here" : undefined}>
                <span className="soft small">{s.phase}</span> {s.exercise}
              </li>
            ))}
          </ol>
        </>
      )}
      <h3 className="h6 mt-2 mb-1">Substitutes{name ? ` for ${name}` : ""}</h3>
      {e.why_not && <p className="clay mb-1">This one: {e.why_not}.</p>}
      {e.substitutes.length === 0 && <p className="soft">Nothing here comes close.</p>}
      <ol className="stand-ins">
        {e.substitutes.map((s) => (
          <li key={s.exercise_id}>
            {s.exercise} <span className="soft small">· {s.reason}</span>
          </li>
        ))}
      </ol>
      <div className="d-flex gap-3 mt-2">
        <button type="button" className="btn btn-link p-0" onClick={() => setEditing(!editing)} aria-expanded={editing}>
          {e.row.is_own ? "Change it" : "Edit for this centre"}
        </button>
        {(e.row.is_own || e.row.is_edited) && (
          <button type="button" className="btn btn-link p-0" onClick={() => back.run(undefined)}>
            {e.is_shipped ? "As shipped again" : "Delete it"}
          </button>
        )}
      </div>
      {back.problem && <Trouble problem={back.problem} />}
      {editing && <OwnForm key={id} choices={choices} gear={gear} start={e} done={() => setEditing(false)} />}
    </section>
  );
}
