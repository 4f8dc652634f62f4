import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Schemas } from "../../api/client";
import type { FloorLine } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";
import { Working } from "../../parts/Working";

interface Props {
  line: FloorLine;
  finished: boolean;
  compact?: boolean;
  /** In a narrow place beside another lift: the sentence names its own. */
  isNamed?: boolean;
  onAnswer: (body: Schemas["AnswerAdvice"], adviceId: number) => Promise<unknown>;
}

/** What the application proposes after a set, with its working; the coach takes it or says otherwise. */
export function AdvicePanel({ line, finished, compact = false, isNamed = false, onAnswer }: Props) {
  const advice = line.advice;
  const [own, setOwn] = useState("");
  const [typing, setTyping] = useState(false);
  if (!advice) return null;
  const left = line.sets.some((s) => s.kind === "work" && !s.done);
  const open = !finished && !advice.outcome && left;
  const answer = (accept: boolean, load: number | null) =>
    void onAnswer({ accept, load_kg: null, load, unit: advice.unit }, advice.id).catch(() => undefined);
  const said = advice.outcome === "accepted" ? "taken" : advice.outcome === "overridden" ? "you chose otherwise" : "";
  return (
    <div>
      {!compact && (
        <div className="soft small">
          {line.slot} {line.exercise}, after {advice.after_number ? `set ${advice.after_number}` : "the last warm-up"}
        </div>
      )}
      <div className="says advice my-1">
        {isNamed && <b>{line.exercise}: </b>}
        {advice.sentence}{" "}
        <Working data={advice.working} label="Why: show the working">
          why
        </Working>
      </div>
      {said && (
        <p className="soft m-0">
          {said}
          {advice.chosen_load_kg !== null && `: ${advice.chosen_words} next`}
        </p>
      )}
      {open && !(compact && advice.move === "same") && (
        <div className={compact ? "d-flex flex-wrap gap-2 mt-1 advice-row" : "d-flex flex-column gap-2 mt-2"}>
          <Button className="tap" onClick={() => answer(true, null)}>
            {advice.move === "done" ? "Stop here" : advice.load_kg !== null ? `Take ${advice.load_words}` : "Same again"}
          </Button>
          {typing ? (
            <form
              className="d-flex gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                answer(false, typedNumber(own) ?? 0);
              }}
            >
              <input
                className="form-control tap num"
                aria-label={`Own load in ${advice.unit}`}
                inputMode="decimal"
                value={own}
                autoFocus
                required
                onChange={(e) => setOwn(e.target.value)}
              />
              <Button type="submit" variant="plain" className="tap">
                Use it
              </Button>
            </form>
          ) : (
            <div className="d-flex gap-2">
              <Button variant="plain" className="tap flex-fill" onClick={() => setTyping(true)}>
                Other load
              </Button>
              <Button variant="plain" className="tap flex-fill" onClick={() => answer(false, null)}>
                {advice.move === "done" ? "Carry on" : "Keep as it was"}
              </Button>
            </div>
          )}
        </div>
      )}
    </div>
  );
}
