import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { stale } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { ExercisePicker } from "../../parts/ExercisePicker";
import { Trouble } from "../../parts/states";

interface Props {
  whose: string;
  id: number;
  kinds: Schemas["LearningChoiceOut"][];
  /** The session it was learned in. */
  session?: number;
  /** Typing begins at once: it was opened to be typed into. */
  isFirst?: boolean;
  onKept?: () => void;
}

/** One line: what was learned, of which lift, and as what it is kept. */
export function NoteFinding({ whose, id, kinds, session, isFirst, onKept }: Props) {
  const place = `${whose}-${id}-${session ?? ""}`;
  const [sentence, setSentence] = useState("");
  const [kind, setKind] = useState("cue");
  const [typed, setTyped] = useState("");
  const [lift, setLift] = useState<Schemas["ExerciseRow"] | null>(null);
  const [test, setTest] = useState("");
  const keep = useAction(
    () =>
      need(
        api.POST("/api/findings/{whose}/{pk}", {
          params: { path: { whose, pk: id } },
          body: { kind, exercise_id: lift?.id ?? "", sentence, test, session_id: session ?? null },
        }),
      ),
    { after: (client) => stale.afterLearning(client) },
  );
  const kept = () => {
    setSentence("");
    setTest("");
    setTyped("");
    setLift(null);
    onKept?.();
  };
  return (
    <form
      className="pad d-flex flex-wrap gap-2 align-items-end"
      aria-label="What was learned"
      onSubmit={(e) => {
        e.preventDefault();
        keep.run(undefined, kept);
      }}
    >
      <Form.Group controlId={`learned-${place}`} style={{ flex: "3 1 260px" }}>
        <Form.Label className="small mb-0">What did you learn?</Form.Label>
        <Form.Control
          size="sm"
          value={sentence}
          autoFocus={isFirst}
          maxLength={200}
          placeholder={kind === "question" ? "nerve or strength?" : "chest through the bar"}
          onChange={(e) => setSentence(e.target.value)}
        />
      </Form.Group>
      <Form.Group controlId={`learned-kind-${place}`}>
        <Form.Label className="small mb-0">Keep it as</Form.Label>
        <Form.Select size="sm" value={kind} onChange={(e) => setKind(e.target.value)}>
          {kinds.map((k) => (
            <option key={k.key} value={k.key}>
              {k.name.toLowerCase()}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <div style={{ flex: "2 1 180px" }}>
        <ExercisePicker
          label={kind === "note" ? "Of a lift, if of one" : "Of which lift"}
          value={lift?.name ?? typed}
          chosen={lift}
          onType={(text) => {
            setTyped(text);
            setLift(null);
          }}
          onChoose={setLift}
        />
      </div>
      {kind === "question" && (
        <Form.Group controlId={`learned-test-${place}`} style={{ flex: "2 1 200px" }}>
          <Form.Label className="small mb-0">What would answer it</Form.Label>
          <Form.Control size="sm" value={test} maxLength={120} onChange={(e) => setTest(e.target.value)} />
        </Form.Group>
      )}
      <Button type="submit" size="sm" disabled={keep.isPending || sentence.trim() === ""}>
        Keep
      </Button>
      {keep.problem && <Trouble problem={keep.problem} />}
    </form>
  );
}
