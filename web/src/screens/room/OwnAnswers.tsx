import { useState } from "react";

import { problemOf, type Problem, type Schemas } from "../../api/client";
import { send } from "../../api/outbox";
import { Trouble } from "../../parts/states";
import { AnswerForm } from "./AnswerForm";

interface Props<Out> {
  ready: Schemas["ReadyOut"];
  /** Where the answers go. */
  path: string;
  onSent: (fresh: Out) => void;
}

/** An athlete's own questions of the day, on a phone: by a link or signed in. */
export function OwnAnswers<Out>({ ready, path, onSent }: Props<Out>) {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  return (
    <>
      <AnswerForm
        questions={ready.questions}
        areas={ready.areas}
        said={ready.said}
        openPain={ready.open_pain}
        withJumps={false}
        label="Send"
        busy={busy}
        onSay={(answers) => {
          setBusy(true);
          setProblem(null);
          send<Out>(path, answers)
            .then(onSent)
            .catch((e: unknown) => setProblem(problemOf(e)))
            .finally(() => setBusy(false));
        }}
      />
      {problem && (
        <div className="mt-2">
          <Trouble problem={problem} />
        </div>
      )}
      <p className="soft small mt-2 mb-0">
        If something hurts or you feel unwell, say so here and to your coach. This does not replace a licensed professional.
      </p>
    </>
  );
}
