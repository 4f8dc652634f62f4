import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import { useNames } from "../../api/hooks";
import { Trouble } from "../../parts/states";
import { ImportPreview } from "./ImportPreview";
import { PastImports } from "./PastImports";
import { useImport } from "./useImport";

const EXAMPLE =
  "name\tsquad\tborn\tyears of lifting\tmass\tback squat\tbench press lb\ttested on\nAda Example\tHarbour wrestling\t2003-02-28\t4\t61.5\t85 x 3\t120\t2026-10-05";

/** Athletes from a pasted table or a file: every row is read and its problem named before anything is stored. */
export default function ImportScreen() {
  const squads = useNames();
  const i = useImport();
  const { text, squad, monthFirst, preview, problem, done, read, take } = i;
  return (
    <div className="page" style={{ maxWidth: 1100 }}>
      <h1>Import athletes</h1>
      <p className="soft">
        Paste a table with headings, or choose a CSV or XLSX file. A column named like a lift holds results: 100, 85 x 3, 225 lb, 60
        technical. With a column “lift”, every row is a result of one lift. Nothing is stored before you have seen every row.{" "}
        <Link to="/athletes">Back to the athletes</Link>
      </p>
      {done && (
        <p className="says" role="status">
          {done.added} added, {done.changed} filled in, {done.left_out} left out.
          {done.results > 0 && ` ${done.results} ${done.results === 1 ? "result" : "results"} kept.`} It can be taken back below.
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
            onChange={(e) => i.type(e.target.value)}
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
                if (file) i.open(file);
              }}
            />
          </Form.Group>
          <Form.Group controlId="import-squad">
            <Form.Label className="small mb-0">Squad of rows that name none</Form.Label>
            <Form.Control list="squads" value={squad} onChange={(e) => i.setSquad(e.target.value)} maxLength={80} />
            <datalist id="squads">
              {squads.data?.map((s) => (
                <option key={s.id} value={s.name} />
              ))}
            </datalist>
          </Form.Group>
          <Form.Check
            id="month-first"
            label="Days with the month first (2/28/2003)"
            checked={monthFirst}
            onChange={(e) => i.putMonthFirst(e.target.checked)}
          />
          <Button disabled={!text.trim() || read.isPending} onClick={read.run}>
            Read it
          </Button>
        </div>
        {problem && (
          <div className="mt-2">
            <Trouble problem={problem} />
          </div>
        )}
      </div>
      {preview && <ImportPreview preview={preview} busy={take.isPending || read.isPending} onMap={i.map} onTake={take.run} />}
      <PastImports />
    </div>
  );
}
