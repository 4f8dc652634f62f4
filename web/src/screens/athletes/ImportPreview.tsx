import { useQuery } from "@tanstack/react-query";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";

interface Props {
  preview: Schemas["PreviewOut"];
  busy: boolean;
  onMap: (place: number, key: string) => void;
  onTake: (withoutBad: boolean) => void;
}

/** What was understood of a table: its columns, which can be said by hand, and every row with its problem. */
export function ImportPreview({ preview: p, busy, onMap, onTake }: Props) {
  return (
    <div className="sheet mb-3" aria-busy={busy}>
      <div className="pad d-flex flex-wrap align-items-center gap-3">
        <h2 className="m-0">
          {p.good} {p.good === 1 ? "row is" : "rows are"} fine, {p.bad} {p.bad === 1 ? "has" : "have"} a problem
        </h2>
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
      <Columns columns={p.columns} onMap={onMap} />
      <table className="board">
        <thead>
          <tr>
            <th className="right">Row</th>
            <th>Name</th>
            <th>Squad</th>
            <th>Understood as</th>
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

/** What each column was taken for; one that was not understood stands out and is left out until somebody says what it is. */
function Columns({ columns, onMap }: { columns: Schemas["TableColumnOut"][]; onMap: Props["onMap"] }) {
  const choices = useQuery({
    queryKey: keys.importColumns,
    queryFn: () => need(api.GET("/api/import/athletes/columns")),
    staleTime: Infinity,
  });
  const unknown = columns.filter((c) => !c.key && c.heading).length;
  return (
    <details className="pad border-top" open={unknown > 0}>
      <summary>
        Columns: {columns.length - unknown} of {columns.length} understood
        {unknown > 0 && <span className="clay"> · say what the others are, or leave them out</span>}
      </summary>
      <div className="d-flex flex-wrap gap-3 mt-2">
        {columns.map((c) => (
          <Form.Group key={c.place} controlId={`column-${c.place}`} style={{ width: 190 }}>
            <Form.Label className="small mb-0">
              <b className={c.key ? undefined : "clay"}>{c.heading || `Column ${c.place + 1}`}</b>
              {c.sample && <span className="soft"> · {c.sample}</span>}
            </Form.Label>
            <Form.Select size="sm" value={c.key} onChange={(e) => onMap(c.place, e.target.value)}>
              <option value="">left out</option>
              {choices.data?.map((x) => (
                <option key={x.key} value={x.key}>
                  {x.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        ))}
      </div>
    </details>
  );
}
