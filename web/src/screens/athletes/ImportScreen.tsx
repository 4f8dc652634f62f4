import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import { api, need, type Problem, type Schemas } from "../../api/client";
import { useNames } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { Trouble } from "../../parts/states";

const EXAMPLE =
  "name\tsquad\tborn\tyears of lifting\tmass\tback squat\tbench press lb\ttested on\nAda Example\tHarbour wrestling\t2003-02-28\t4\t61.5\t85 x 3\t120\t2026-10-05";

/** Athletes from a pasted table or a file: every row is read and its problem named before anything is stored. */
export default function ImportScreen() {
  const squads = useNames();
  const [text, setText] = useState("");
  const [squad, setSquad] = useState("");
  const [preview, setPreview] = useState<Schemas["PreviewOut"] | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [done, setDone] = useState<Schemas["ImportedOut"] | null>(null);
  const shown = (found: Schemas["PreviewOut"]) => {
    setPreview(found);
    setText(found.text);
    setDone(null);
  };
  const read = useAction(
    (from: { file: File } | null) =>
      from === null
        ? need(api.POST("/api/import/athletes/preview", { body: { text, squad, without_bad: false } }))
        : need(
            api.POST("/api/import/athletes/file", {
              params: { query: { squad } },
              body: { file: "" },
              bodySerializer: () => {
                const form = new FormData();
                form.append("file", from.file);
                return form;
              },
            }),
          ),
    { after: () => undefined, say: setProblem },
  );
  const take = useAction(
    (withoutBad: boolean) => need(api.POST("/api/import/athletes", { body: { text, squad, without_bad: withoutBad } })),
    { say: setProblem },
  );
  const taken = (found: Schemas["ImportedOut"]) => {
    setDone(found);
    setPreview(null);
    setText("");
  };
  return (
    <div className="page" style={{ maxWidth: 1100 }}>
      <h1>Import athletes</h1>
      <p className="soft">
        Paste a table with headings, or choose a CSV or XLSX file. A column named like a lift holds results: 100, 85 x 3, 225 lb, 60
        technical. Nothing is stored before you have seen every row. <Link to="/athletes">Back to the athletes</Link>
      </p>
      {done && (
        <p className="says" role="status">
          {done.added} added, {done.changed} filled in, {done.left_out} left out.
          {done.results > 0 && ` ${done.results} ${done.results === 1 ? "result" : "results"} kept.`}
        </p>
      )}
      <div className="sheet pad mb-3">
        <Form.Group controlId="import-text">
          <Form.Label className="small mb-0">Table</Form.Label>
          <Form.Control
            as="textarea"
            rows={7}
            value={text}
            placeholder={EXAMPLE}
            spellCheck={false}
            onChange={(e) => setText(e.target.value)}
            style={{ fontFamily: "monospace", fontSize: "0.85rem" }}
          />
        </Form.Group>
        <div className="d-flex flex-wrap align-items-end gap-3 mt-2">
          <Form.Group controlId="import-file">
            <Form.Label className="small mb-0">or a file</Form.Label>
            <Form.Control
              type="file"
              accept=".csv,.tsv,.txt,.xlsx"
              onChange={(e) => {
                const file = (e.target as HTMLInputElement).files?.[0];
                if (file) read.run({ file }, shown);
              }}
            />
          </Form.Group>
          <Form.Group controlId="import-squad">
            <Form.Label className="small mb-0">Squad, for rows without one</Form.Label>
            <Form.Control list="squads" value={squad} onChange={(e) => setSquad(e.target.value)} maxLength={80} />
            <datalist id="squads">
              {squads.data?.map((s) => (
                <option key={s.id} value={s.name} />
              ))}
            </datalist>
          </Form.Group>
          <Button disabled={!text.trim() || read.isPending} onClick={() => read.run(null, shown)}>
            Read it
          </Button>
        </div>
        {problem && (
          <div className="mt-2">
            <Trouble problem={problem} />
          </div>
        )}
      </div>
      {preview && <Preview preview={preview} busy={take.isPending} onTake={(without) => take.run(without, taken)} />}
    </div>
  );
}

function Preview({ preview: p, busy, onTake }: { preview: Schemas["PreviewOut"]; busy: boolean; onTake: (withoutBad: boolean) => void }) {
  return (
    <div className="sheet">
      <div className="pad d-flex flex-wrap align-items-center gap-3">
        <h2 className="m-0">
          {p.good} {p.good === 1 ? "row is" : "rows are"} fine, {p.bad} {p.bad === 1 ? "has" : "have"} a problem
        </h2>
        {p.ignored.length > 0 && <span className="soft small">Not understood and left out: {p.ignored.join(", ")}</span>}
        <div className="ms-auto">
          {p.bad === 0 ? (
            <Button disabled={busy || p.good === 0} onClick={() => onTake(false)}>
              Import {p.good}
            </Button>
          ) : (
            <Button variant="plain" disabled={busy || p.good === 0} onClick={() => onTake(true)}>
              Import {p.good}, leave {p.bad} out
            </Button>
          )}
        </div>
      </div>
      <table className="board">
        <thead>
          <tr>
            <th className="right">row</th>
            <th>Name</th>
            <th>Squad</th>
            <th>Read as</th>
            <th>Problem</th>
          </tr>
        </thead>
        <tbody>
          {p.rows.map((r) => (
            <tr key={r.number}>
              <td className="right num soft">{r.number}</td>
              <td className="fw-semibold">
                {r.name || "–"}
                {r.is_known && <div className="soft small fw-normal">known: filled in</div>}
              </td>
              <td>{r.squad || "–"}</td>
              <td className="small soft">{r.words}</td>
              <td className="small">
                {r.problems.length > 0 ? <span className="clay">{r.problems.join(" ")}</span> : <span className="soft">none</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
