import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, problemOf, type Problem } from "../../api/client";
import { keys } from "../../api/keys";
import { typedNumber } from "../../logic/numbers";
import { Failed, Loading, Trouble } from "../../parts/states";

const LABELS: Record<string, string> = {
  every_s: "every", rounds: "rounds", seconds: "for", work_s: "work", rest_s: "rest", bpm: "beats a minute", beats: "beats a rep",
  down_s: "down", bottom_s: "hold low", up_s: "up", top_s: "hold high", reps: "reps", hold_s: "hold", station_s: "station", change_s: "change", stations: "stations",
}; // prettier-ignore

interface Props {
  racks: number;
  write: (url: string, body: unknown) => Promise<unknown>;
  roomId: number;
  started: () => void;
}

/** Choose a timed form, set its figures, start it for the room or a rack. */
export function StartClock({ racks, write, roomId, started }: Props) {
  const forms = useQuery({ queryKey: keys.clockForms, queryFn: () => need(api.GET("/api/clock-forms")), staleTime: Infinity });
  const [kind, setKind] = useState("every");
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [rack, setRack] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  if (forms.isPending) return <Loading what="the clocks" />;
  if (forms.isLoadingError) return <Failed error={forms.error} again={() => void forms.refetch()} />;
  const form = forms.data.find((f) => f.kind === kind) ?? forms.data[0];
  if (!form) return null;
  const value = (name: string, standard: number) => typed[`${kind}.${name}`] ?? String(standard);
  function start() {
    setProblem(null);
    const figures = Object.fromEntries((form?.figures ?? []).map((f) => [f.name, typedNumber(value(f.name, f.default)) ?? 0]));
    write(`/api/room/${roomId}/clocks`, { kind, figures, rack: rack ? Number(rack) : null }).then(started, (e: unknown) =>
      setProblem(problemOf(e)),
    );
  }
  return (
    <form
      className="sheet pad"
      aria-label="Start a clock"
      onSubmit={(e) => {
        e.preventDefault();
        start();
      }}
    >
      <div className="d-flex flex-wrap gap-2 mb-2" role="group" aria-label="Which clock">
        {forms.data.map((f) => (
          <Button
            key={f.kind}
            variant={f.kind === kind ? "primary" : "plain"}
            className="tap"
            aria-pressed={f.kind === kind}
            onClick={() => setKind(f.kind)}
          >
            {f.name}
          </Button>
        ))}
      </div>
      <p className="soft mb-2">{form.words}</p>
      <div className="d-flex flex-wrap gap-3 align-items-end">
        {form.figures.map((f) => (
          <label key={f.name} className="small">
            {[...new Set([LABELS[f.name] ?? f.name, f.unit])].join(", ")}
            <input
              className="form-control tap num"
              style={{ width: 96 }}
              inputMode="decimal"
              aria-invalid={problem?.where === f.name}
              value={value(f.name, f.default)}
              onChange={(e) => setTyped({ ...typed, [`${kind}.${f.name}`]: e.target.value })}
            />
          </label>
        ))}
        <label className="small">
          for
          <select className="form-select tap" value={rack} onChange={(e) => setRack(e.target.value)}>
            <option value="">the room</option>
            {Array.from({ length: racks }, (_, i) => (
              <option key={i} value={i + 1}>
                rack {i + 1}
              </option>
            ))}
          </select>
        </label>
        <Button type="submit" className="tap px-4">
          Start
        </Button>
      </div>
      {problem && (
        <div className="mt-2">
          <Trouble problem={problem} />
        </div>
      )}
    </form>
  );
}
