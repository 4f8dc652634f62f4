import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { send } from "../../api/outbox";
import { longDay } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { AnswerForm } from "./AnswerForm";

/** An athlete's own questions on a phone, opened by a link that shows nothing else. */
export default function ReadyScreen() {
  const token = useParams().token ?? "";
  const client = useQueryClient();
  const key = keys.ready(token);
  const ready = useQuery({
    queryKey: key,
    queryFn: () => need(api.GET("/api/ready/{token}", { params: { path: { token } } })),
    retry: false,
  });
  const [problem, setProblem] = useState<Problem | null>(null);
  const [sent, setSent] = useState(false);
  const [busy, setBusy] = useState(false);
  if (ready.isPending) return <Loading what="your questions" />;
  if (ready.isError) return <Failed error={ready.error} again={() => void ready.refetch()} />;
  const r = ready.data;
  return (
    <main className="page" style={{ maxWidth: 460, margin: "0 auto" }}>
      <h1>{r.name}</h1>
      <p className="soft">
        {r.squad} · {longDay(r.day)}. Half a minute, for your coach.
      </p>
      {sent && (
        <p className="says advice" role="status">
          Thank you, your coach has it. Changed your mind? Send it again.
        </p>
      )}
      <div className="sheet pad">
        <AnswerForm
          questions={r.questions}
          areas={r.areas}
          said={r.said}
          openPain={r.open_pain}
          withJumps={false}
          label="Send"
          busy={busy}
          onSay={(answers) => {
            setBusy(true);
            setProblem(null);
            send<Schemas["ReadyOut"]>(`/api/ready/${token}`, answers)
              .then((fresh) => {
                client.setQueryData(key, fresh);
                setSent(true);
              })
              .catch((e: unknown) => setProblem(problemOf(e)))
              .finally(() => setBusy(false));
          }}
        />
        {problem && (
          <div className="mt-2">
            <Trouble problem={problem} />
          </div>
        )}
      </div>
      <p className="soft small mt-2">
        If something hurts or you feel unwell, say so here and to your coach. This does not replace a licensed professional.
      </p>
    </main>
  );
}
