import type { Schemas } from "../../api/client";

interface Props {
  answer: Schemas["SeasonAnswer"];
  onUndo: (scope: string) => void;
  onRedo: (scope: string) => void;
}

/** What undo takes back and redo brings again; a change of several athletes asks for whom. */
export function Steps({ answer, onUndo, onRedo }: Props) {
  if (!answer.undo && !answer.redo) return null;
  return (
    <div className="note" role="group" aria-label="Undo and redo">
      {answer.undo && (
        <>
          <b>Last change:</b> {answer.undo.words}
          {answer.undo.by && <span className="soft">, by {answer.undo.by}</span>}.
          <Buttons word="Undo" step={answer.undo} name={answer.athlete_name} onAct={onUndo} />
        </>
      )}
      {answer.redo && (
        <div className={answer.undo ? "mt-2" : ""}>
          <b>Taken back:</b> {answer.redo.words}.
          <Buttons word="Redo" step={answer.redo} name={answer.athlete_name} onAct={onRedo} />
        </div>
      )}
    </div>
  );
}

function Buttons({
  word,
  step,
  name,
  onAct,
}: {
  word: string;
  step: Schemas["SeasonStepOut"];
  name: string;
  onAct: (scope: string) => void;
}) {
  const button = (label: string, scope: string) => (
    <button key={scope} type="button" className="btn btn-link p-0 fw-semibold" onClick={() => onAct(scope)}>
      {label}
    </button>
  );
  return (
    <div className="mt-1 d-flex flex-wrap gap-3">
      {step.people > 1
        ? [button(`${word} for all ${step.people}`, "all"), button(`${word} for ${name} only`, "athlete")]
        : button(word, "athlete")}
    </div>
  );
}
