import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { api, need } from "../../api/client";
import { useMay } from "../../api/hooks";
import { keys } from "../../api/keys";
import { Confirm } from "./Findings";
import { NoteFinding } from "./NoteFinding";

/** At the end of a session: what it taught. What was noticed stands there already; the rest is one line, or waits for the evening. */
export function Taught({ athlete, session }: { athlete: number; session: number }) {
  const mayRead = useMay()("training");
  const found = useQuery({
    queryKey: keys.findings("athlete", athlete),
    queryFn: () => need(api.GET("/api/findings/{whose}/{pk}", { params: { path: { whose: "athlete", pk: athlete } } })),
    enabled: mayRead,
  });
  if (!found.data?.may_note) return null;
  const waits = found.data.findings.filter((f) => f.state === "waits");
  const here = found.data.findings.filter((f) => f.evidence.some((e) => e.ref === `session:${session}`));
  return (
    <section className="sheet mb-3" aria-label="What did this teach?">
      <div className="pad pb-0 d-flex flex-wrap gap-2 align-items-baseline">
        <h2 className="me-auto mb-0">What did this teach?</h2>
        <Link to={`/learning/athlete/${athlete}`}>everything learned</Link>
      </div>
      {waits.map((f) => (
        <div key={f.ref || f.id} className="pad py-1 d-flex flex-wrap gap-2 align-items-center">
          <span className="me-auto">
            {f.exercise && `${f.exercise}: `}
            {f.sentence} <span className="soft small">{f.evidence.map((e) => e.words).join(" · ")}</span>
          </span>
          {found.data.may_confirm && <Confirm finding={f} />}
        </div>
      ))}
      {here.map((f) => (
        <p key={f.id} className="pad py-1 m-0 soft">
          {f.exercise && `${f.exercise}: `}
          {f.sentence} · {f.state_words}
        </p>
      ))}
      <NoteFinding whose="athlete" id={athlete} kinds={found.data.kinds} session={session} />
    </section>
  );
}
