import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { useAction } from "../../api/useAction";
import { Trouble } from "../../parts/states";
import { ScopeSelect } from "./ScopeSelect";

type Preview = Schemas["ImportOut"];
const STATUS: Record<string, string> = {
  new: "new",
  same: "there already",
  changed: "changes",
  cancelled: "is taken out",
  skip: "left out",
  older: "older than what stands",
};

/** An iCalendar file, looked at event by event before anything is taken in. */
export function CalendarImport({ id, calendar }: { id: number; calendar: Schemas["CalendarOut"] }) {
  const params = { path: { athlete_id: id } };
  const [text, setText] = useState("");
  const [kinds, setKinds] = useState<Record<string, string>>({});
  const [scope, setScope] = useState("squad");
  const [file, setFile] = useState("");
  const [preview, setPreview] = useState<Preview | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const take = useAction(
    (body: Schemas["CalendarText"]) => need(api.POST("/api/athletes/{athlete_id}/calendar/import", { params, body })),
    { say: setProblem },
  );

  async function look(next: { text?: string; kinds?: Record<string, string>; scope?: string }) {
    const body = { text: next.text ?? text, kinds: next.kinds ?? kinds, scope: next.scope ?? scope };
    setProblem(null);
    try {
      setPreview(await need(api.POST("/api/athletes/{athlete_id}/calendar/preview", { params, body })));
    } catch (error) {
      setPreview(null);
      setProblem(problemOf(error));
    }
  }
  const coming = preview?.rows.filter((r) => ["new", "changed", "cancelled"].includes(r.status)).length ?? 0;

  return (
    <section className="sheet pad">
      <h2>Calendar in</h2>
      <div className="d-flex flex-wrap gap-2 align-items-end mb-2">
        <Form.Group controlId="ics-file">
          <Form.Label className="small mb-0">iCalendar file (.ics)</Form.Label>
          <Form.Control
            size="sm"
            type="file"
            accept=".ics,text/calendar"
            onChange={(e) => {
              const input = e.target as HTMLInputElement;
              const file = input.files?.[0];
              setFile(file?.name ?? "");
              void file?.text().then((read) => {
                input.value = ""; // the same file, changed since, can be chosen again
                setText(read);
                setKinds({});
                return look({ text: read, kinds: {} });
              });
            }}
          />
        </Form.Group>
        <ScopeSelect
          id="ics-scope"
          calendar={calendar}
          value={scope}
          onChange={(s) => {
            setScope(s);
            if (text) void look({ scope: s });
          }}
        />
      </div>
      {file && <p className="soft small mb-1">Read: {file}</p>}
      {problem && <Trouble problem={problem} />}
      {preview?.problems.map((p) => (
        <p className="clay small mb-1" key={p}>
          {p}
        </p>
      ))}
      {preview && preview.rows.length === 0 && <p className="soft">Nothing in it lies ahead.</p>}
      {preview && preview.rows.length > 0 && (
        <>
          <ImportRows
            preview={preview}
            calendar={calendar}
            onKind={(uid, kind) => {
              const next = { ...kinds, [uid]: kind };
              setKinds(next);
              void look({ kinds: next });
            }}
          />
          {preview.stored ? (
            <p className="says mb-0" role="status">
              Taken in.
            </p>
          ) : (
            <Button size="sm" disabled={coming === 0 || take.isPending} onClick={() => take.run({ text, kinds, scope }, setPreview)}>
              {coming === 0 ? "Nothing to take in" : `Take in ${coming}`}
            </Button>
          )}
        </>
      )}
    </section>
  );
}

interface RowsProps {
  preview: Preview;
  calendar: Schemas["CalendarOut"];
  onKind: (uid: string, kind: string) => void;
}

/** Each event of the file, what it is taken as, and what would become of it. */
function ImportRows({ preview, calendar, onKind }: RowsProps) {
  return (
    <table className="board mb-2">
      <thead>
        <tr>
          <th>Event</th>
          <th>Becomes</th>
          <th>It</th>
        </tr>
      </thead>
      <tbody>
        {preview.rows.map((r) => (
          <tr key={r.uid}>
            <td>
              {r.name}
              <div className="soft small">{r.words}</div>
            </td>
            <td>
              <Form.Select
                size="sm"
                aria-label={`${r.name} is taken as`}
                value={r.kind}
                disabled={preview.stored}
                onChange={(e) => onKind(r.uid, e.target.value)}
              >
                {calendar.import_kinds.map((k) => (
                  <option key={k.id} value={k.id}>
                    {k.id === "skip" ? "skip it" : k.name}
                  </option>
                ))}
              </Form.Select>
            </td>
            <td className={r.status === "new" || r.status === "changed" ? "fw-semibold nowrap" : "soft nowrap"}>{STATUS[r.status]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
