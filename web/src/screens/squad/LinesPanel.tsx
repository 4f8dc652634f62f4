import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, need, problemOf } from "../../api/client";
import { keys } from "../../api/keys";
import { Trouble } from "../../parts/states";
import { NumberField } from "../../parts/NumberField";

/** Lines for sprints and jumps: how many, how deep, so that waiting is the rest. */
export function LinesPanel({ athletes }: { athletes: number }) {
  const [typed, setTyped] = useState({ athletes: String(athletes), work: "4", gap: "2", ratio: "10" });
  const ask = {
    athletes: Number(typed.athletes) || 0,
    work_s: Number(typed.work) || 0,
    gap_s: Number(typed.gap) || 0,
    ratio: Number(typed.ratio) || 0,
  };
  const lines = useQuery({
    queryKey: keys.lines(ask),
    placeholderData: (before) => before,
    queryFn: () => need(api.GET("/api/running/lines", { params: { query: ask } })),
    retry: false,
  });
  const field = (key: keyof typeof typed, label: string) => (
    <NumberField label={`${label}`} width={86} value={typed[key]} onChange={(e) => setTyped({ ...typed, [key]: e.target.value })} />
  );
  return (
    <section className="sheet pad mt-3 no-print" aria-label="Lines for runs and jumps">
      <h2>Lines for runs and jumps</h2>
      <div className="d-flex flex-wrap gap-3 align-items-end">
        {field("athletes", "athletes")}
        {field("work", "work, s")}
        {field("gap", "seconds between starts")}
        {field("ratio", "rest : work")}
        <p className="mb-1" role="status">
          {lines.isSuccess && lines.data.words}
        </p>
      </div>
      {lines.isLoadingError && <Trouble problem={problemOf(lines.error)} />}
    </section>
  );
}
