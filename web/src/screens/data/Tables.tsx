import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Form from "react-bootstrap/Form";

import { api, need } from "../../api/client";
import { useNames } from "../../api/hooks";
import { keys } from "../../api/keys";
import { Download } from "../../parts/Download";
import { Failed } from "../../parts/states";

/** Results, sets, sessions, loads and plans as tables: of everybody one sees, or fewer, and of some days or all. */
export function Tables() {
  const tables = useQuery({ queryKey: keys.tables, queryFn: () => need(api.GET("/api/export-tables")), staleTime: Infinity });
  const squads = useNames();
  const [whose, setWhose] = useState("");
  const [since, setSince] = useState("");
  const [until, setUntil] = useState("");
  if (tables.isLoadingError) return <Failed error={tables.error} again={() => void tables.refetch()} />;
  const asked = new URLSearchParams();
  const [kind, id] = whose.split(" ");
  if (kind && id) asked.set(kind, id);
  if (since) asked.set("since", since);
  if (until) asked.set("until", until);
  const query = asked.size > 0 ? `?${asked.toString()}` : "";
  return (
    <section className="sheet mb-3" aria-label="Tables">
      <div className="pad">
        <h2>Tables</h2>
        <div className="d-flex flex-wrap gap-3 align-items-end">
          <Form.Group controlId="tables-whose">
            <Form.Label className="small mb-0">Of whom</Form.Label>
            <Form.Select size="sm" value={whose} onChange={(e) => setWhose(e.target.value)} style={{ width: 240 }}>
              <option value="">everybody</option>
              {squads.data?.map((s) => (
                <optgroup key={s.id} label={s.name}>
                  <option value={`squad ${s.id}`}>{s.name}, all</option>
                  {s.athletes.map((a) => (
                    <option key={a.id} value={`athlete ${a.id}`}>
                      {a.name}
                    </option>
                  ))}
                </optgroup>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="tables-since">
            <Form.Label className="small mb-0">First day</Form.Label>
            <Form.Control size="sm" type="date" value={since} onChange={(e) => setSince(e.target.value)} />
          </Form.Group>
          <Form.Group controlId="tables-until">
            <Form.Label className="small mb-0">Last day</Form.Label>
            <Form.Control size="sm" type="date" value={until} onChange={(e) => setUntil(e.target.value)} />
          </Form.Group>
          <span className="soft small">No day: all of them.</span>
        </div>
      </div>
      <table className="board">
        <caption className="visually-hidden">Tables that go out</caption>
        <tbody>
          {tables.data?.map((t) => (
            <tr key={t.name}>
              <td>{t.words}</td>
              <td className="right">
                <span className="d-inline-flex flex-wrap gap-1 justify-content-end">
                  {(["csv", "xlsx"] as const).map((form) => (
                    <Download
                      key={form + query}
                      href={`/api/export/tables/${t.name}.${form}${query}`}
                      label={`${form.toUpperCase()}: ${t.words}`}
                    >
                      {form.toUpperCase()}
                    </Download>
                  ))}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
