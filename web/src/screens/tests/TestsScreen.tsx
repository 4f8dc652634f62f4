import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link, useNavigate, useParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useTests } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { ExercisePicker } from "../../parts/ExercisePicker";
import { Margin } from "../../parts/Margin";
import { Failed, Loading, Trouble } from "../../parts/states";
import { AthleteTabs } from "../athlete/AthleteTabs";
import { TestRows } from "../trials/TestRows";
import { useMay } from "../../api/hooks";

/** Which test of a max is open to this athlete, and why; a running one goes on where it was. */
export default function TestsScreen() {
  const id = Number(useParams().id);
  const [lift, setLift] = useState("");
  const [pain, setPain] = useState(false);
  const [search, setSearch] = useState("");
  const tests = useTests(id, lift, pain);
  if (tests.isPending) return <Loading what="the tests" />;
  if (tests.isLoadingError) return <Failed error={tests.error} again={() => void tests.refetch()} />;
  const t = tests.data;
  const running = t.tests.find((x) => x.running && x.is_guided);
  const margin = [
    {
      id: "safety",
      decision: false,
      title: "Jarvok does not diagnose injuries or clear anyone to train.",
      text: "Local rules, the federation's rules and licensed professionals come first.",
    },
  ];
  if (running) {
    margin.unshift({
      id: "running",
      decision: true,
      title: "A test is running.",
      text: `${running.exercise}: ${running.name}. It goes on where it was.`,
    });
  }
  return (
    <div className="page">
      <h1>{t.athlete_name}</h1>
      <AthleteTabs id={id} />
      <div className="with-margin">
        <div>
          <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
            <Form.Group controlId="test-lift">
              <Form.Label className="small mb-0">Lift to test</Form.Label>
              <Form.Select value={t.exercise_id} onChange={(e) => setLift(e.target.value)}>
                {t.choices.map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.name}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
            <ExercisePicker
              label="Find another lift"
              value={search}
              chosen={null}
              onType={setSearch}
              onChoose={(row) => {
                setSearch("");
                setLift(row.id);
              }}
            />
            <Form.Check id="test-pain" className="mb-2" label="Pain today" checked={pain} onChange={(e) => setPain(e.target.checked)} />
            <span className="soft mb-2">{t.max_words ? `e1RM today ${t.max_words}` : "no max known: the test starts from effort"}</span>
            {running && (
              <Link className="btn btn-primary ms-auto" to={`/tests/${running.id}`}>
                Resume the running test
              </Link>
            )}
          </div>
          <Offers id={id} tests={t} pain={pain} running={running !== undefined} />
          <TestRows tests={t.tests} caption="Tests so far" />
        </div>
        <Margin notes={margin} />
      </div>
    </div>
  );
}

function Offers({ id, tests: t, pain, running }: { id: number; tests: Schemas["TestsOut"]; pain: boolean; running: boolean }) {
  const may = useMay();
  const navigate = useNavigate();
  const start = useAction((kind: string) =>
    need(
      api.POST("/api/athletes/{athlete_id}/tests", {
        params: { path: { athlete_id: id } },
        body: { exercise_id: t.exercise_id, kind, has_pain: pain },
      }),
    ),
  );
  return (
    <div className="sheet mb-3">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          Which test for {t.athlete_name} in the {t.exercise.toLowerCase()}
        </caption>
        <thead>
          <tr>
            <th style={{ width: "30%" }}>Test</th>
            <th>Who it suits, or why not</th>
            <th style={{ width: "27%" }}>Bear in mind</th>
            <th>
              <span className="visually-hidden">Start</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {t.offers.map((o) => (
            <tr key={o.kind}>
              <th scope="row" className="text-body" style={{ fontSize: "0.95rem" }}>
                <span className="fw-semibold">{o.name}</span>
                {o.is_suggested && <span className="clay"> · suits here</span>}
                <div className="soft small fw-normal">{o.how}</div>
              </th>
              <td>
                {!o.is_open && <b>Not yet: </b>}
                {o.reasons.join("; ")}
              </td>
              <td className="soft small">{o.caution}</td>
              <td className="right">
                <Button
                  size="sm"
                  variant={o.is_suggested ? "primary" : "plain"}
                  disabled={!o.is_open || running || start.isPending || !may("plan")}
                  aria-label={`Start: ${o.name}`}
                  onClick={() => start.run(o.kind, (test) => void navigate(`/tests/${test.id}`))}
                >
                  Start
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {start.problem && <Trouble problem={start.problem} />}
    </div>
  );
}
