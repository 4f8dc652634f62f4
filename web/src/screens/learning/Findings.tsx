import { useQuery } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import Button from "react-bootstrap/Button";
import { Link } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys, stale } from "../../api/keys";
import { firstProblem, useAction } from "../../api/useAction";
import { Failed, Loading, Trouble } from "../../parts/states";
import { NoteFinding } from "./NoteFinding";

type Finding = Schemas["FindingOut"];
const SHOWN = 8;

/** What was learned: what waits for a word first, then what asks for a test, what acts, and what has ended. */
export function Findings({ whose, id }: { whose: string; id: number }) {
  const [all, setAll] = useState(false);
  const found = useQuery({
    queryKey: keys.findings(whose, id),
    queryFn: () => need(api.GET("/api/findings/{whose}/{pk}", { params: { path: { whose, pk: id } } })),
  });
  if (found.isPending) return <Loading what="the findings" />;
  if (found.isLoadingError) return <Failed error={found.error} again={() => void found.refetch()} />;
  const f = found.data;
  const shown = all ? f.findings : f.findings.filter((x) => x.state !== "ended").slice(0, SHOWN);
  const hidden = f.findings.length - shown.length;
  return (
    <section className="sheet mb-3" aria-label="Findings">
      <div className="pad pb-1 d-flex flex-wrap gap-2 align-items-baseline">
        <h2 className="me-auto mb-0">Findings</h2>
        <span className="soft">{f.summary}</span>
      </div>
      {f.shared.length > 0 && <p className="pad py-0 mb-1">Shared: {f.shared.join("; ")}.</p>}
      {shown.length > 0 && (
        <div className="scroll-x">
          <table className="board">
            <thead>
              <tr>
                <th>What was learned, and from what</th>
                <th>What it changes</th>
                <th>Your word</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((x) => (
                <Row key={`${x.id}-${x.ref}-${x.athlete_id}`} finding={x} page={f} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {(hidden > 0 || all) && (
        <div className="pad py-1">
          <Button variant="plain" size="sm" onClick={() => setAll(!all)}>
            {all ? "Show fewer" : `Show ${hidden} more`}
          </Button>
        </div>
      )}
      {f.may_note && <NoteFinding whose={whose} id={id} kinds={f.kinds} />}
    </section>
  );
}

/** A piece of evidence; it leads to the page where it stands. */
function Evidence({ of: e, athlete }: { of: Schemas["EvidenceOut"]; athlete: number | null }) {
  const to = e.session_id
    ? `/floor/${e.session_id}/review`
    : e.trial_id
      ? `/trials/${e.trial_id}`
      : e.entry_id && athlete
        ? `/athletes/${athlete}/after/${e.entry_id}`
        : e.is_result && athlete
          ? `/athletes/${athlete}`
          : "";
  return to ? <Link to={to}>{e.words}</Link> : <>{e.words}</>;
}

function Row({ finding: x, page }: { finding: Finding; page: Schemas["FindingsOut"] }) {
  return (
    <tr>
      <td>
        <b>
          {page.whose === "squad" && `${x.whose}: `}
          {x.sentence}
        </b>
        <div className="soft small">
          {x.exercise}
          {x.evidence.map((e, n) => (
            <Fragment key={`${e.ref} ${n}`}>
              {(x.exercise || n > 0) && " · "}
              <Evidence of={e} athlete={x.athlete_id} />
            </Fragment>
          ))}
          {x.test && ` · would be answered by: ${x.test}`}
        </div>
      </td>
      <td>
        {x.changes}
        <div className="soft small">{x.kind_words}</div>
      </td>
      <td>{x.state === "waits" && page.may_confirm ? <Confirm finding={x} /> : <Word finding={x} mayEnd={page.may_confirm} />}</td>
    </tr>
  );
}

/** A coach's word on what waits for one. */
export function Confirm({ finding: x }: { finding: Finding }) {
  const noticed = useAction(
    (keep: boolean) =>
      need(
        api.POST("/api/athletes/{athlete_id}/noticed", {
          params: { path: { athlete_id: x.athlete_id ?? 0 } },
          body: { ref: x.ref, keep, sentence: "" },
        }),
      ),
    { after: (client) => stale.afterLearning(client) },
  );
  const typed = useAction(
    (keep: boolean) =>
      need(
        api.POST("/api/finding/{finding_id}/answer", {
          params: { path: { finding_id: x.id ?? 0 } },
          body: { state: keep ? "acts" : "dropped", reason: "" },
        }),
      ),
    { after: (client) => stale.afterLearning(client) },
  );
  const say = x.id === null ? noticed : typed;
  const problem = firstProblem(noticed, typed);
  return (
    <div className="d-flex flex-wrap gap-1">
      <Button size="sm" variant="plain" disabled={say.isPending} aria-label={`Keep: ${x.sentence}`} onClick={() => say.run(true)}>
        Keep
      </Button>
      <Button size="sm" variant="plain" disabled={say.isPending} aria-label={`Drop: ${x.sentence}`} onClick={() => say.run(false)}>
        Drop
      </Button>
      {problem && <Trouble problem={problem} />}
    </div>
  );
}

/** How it stands; what is at work can be ended, with why. */
function Word({ finding: x, mayEnd }: { finding: Finding; mayEnd: boolean }) {
  const [asks, setAsks] = useState(false);
  const [reason, setReason] = useState("");
  const isQuestion = x.kind === "question";
  const end = useAction(
    (state: string) =>
      need(api.POST("/api/finding/{finding_id}/answer", { params: { path: { finding_id: x.id ?? 0 } }, body: { state, reason } })),
    { after: (client) => stale.afterLearning(client) },
  );
  const again = x.state === "asks_again";
  return (
    <>
      <span className={again ? "fw-semibold" : "soft"}>{x.state_words}</span>
      {x.reason && <div className="soft small">{x.reason}</div>}
      {mayEnd && x.id !== null && (x.state === "acts" || again) && !asks && (
        <div className="d-flex flex-wrap gap-1">
          {again && (
            <Button size="sm" variant="plain" disabled={end.isPending} onClick={() => end.run("acts")}>
              Still holds
            </Button>
          )}
          <Button
            size="sm"
            variant="plain"
            aria-label={`${isQuestion ? "Answer" : "Withdraw"}: ${x.sentence}`}
            onClick={() => setAsks(true)}
          >
            {isQuestion ? "Answer …" : "Withdraw …"}
          </Button>
        </div>
      )}
      {asks && (
        <form
          className="d-flex flex-wrap gap-1"
          onSubmit={(e) => {
            e.preventDefault();
            end.run(isQuestion ? "answered" : "withdrawn", () => setAsks(false));
          }}
        >
          <input
            className="form-control form-control-sm"
            aria-label={isQuestion ? "The answer" : "Why it is withdrawn"}
            placeholder={isQuestion ? "the answer" : "why"}
            value={reason}
            autoFocus
            onChange={(e) => setReason(e.target.value)}
          />
          <Button size="sm" type="submit" disabled={end.isPending}>
            {isQuestion ? "Answered" : "Withdraw"}
          </Button>
          <Button size="sm" variant="plain" onClick={() => setAsks(false)}>
            Back
          </Button>
        </form>
      )}
      {end.problem && <Trouble problem={end.problem} />}
    </>
  );
}
