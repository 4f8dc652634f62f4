import { useQuery } from "@tanstack/react-query";
import Form from "react-bootstrap/Form";
import { Link, useParams, useSearchParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { longDay } from "../../parts/dates";
import { Download } from "../../parts/Download";
import { Needs } from "../../parts/Needs";
import { Failed, Loading } from "../../parts/states";
import { ReportChart } from "./ReportChart";

const SPANS = [4, 8, 12, 26];
const FORMS = ["pdf", "csv", "xlsx"];

/** What the last weeks were, written down for one reader: on the page, on paper, as tables. */
export default function ReportScreen() {
  const { whose = "athlete", id: raw } = useParams();
  const id = Number(raw);
  const [search, setSearch] = useSearchParams();
  const weeks = Number(search.get("weeks")) || 4;
  const reader = search.get("for") ?? "";
  const group = search.get("group") ?? "";
  const report = useQuery({
    queryKey: keys.report(whose, id, reader || group, weeks),
    queryFn: () =>
      whose === "squad"
        ? need(api.GET("/api/squads/{squad_id}/report", { params: { path: { squad_id: id }, query: { weeks, group } } }))
        : need(api.GET("/api/athletes/{athlete_id}/report", { params: { path: { athlete_id: id }, query: { weeks, reader } } })),
  });
  if (report.isPending) return <Loading what="the report" />;
  if (report.isLoadingError) return <Failed error={report.error} again={() => void report.refetch()} />;
  const r = report.data;
  const choose = (to: Record<string, string>) => setSearch({ ...Object.fromEntries(search), ...to }, { replace: true });
  const file = `/api/export/${whose === "squad" ? "squads" : "athletes"}/${id}/report`;
  return (
    <div className="page report">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-3">
        <div className="me-auto">
          <h1 className="mb-0">{r.name}</h1>
          <p className="soft m-0">
            {r.subtitle} · {longDay(r.first)} to {longDay(r.last)}
          </p>
        </div>
        {r.readers.length > 1 && (
          <Form.Group controlId="report-reader" className="no-print">
            <Form.Label className="small mb-0">Written</Form.Label>
            <Form.Select size="sm" value={r.reader} onChange={(e) => choose({ for: e.target.value })}>
              {r.readers.map((x) => (
                <option key={x.key} value={x.key}>
                  {x.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        )}
        <Form.Group controlId="report-weeks" className="no-print">
          <Form.Label className="small mb-0">Weeks</Form.Label>
          <Form.Select size="sm" value={weeks} onChange={(e) => choose({ weeks: e.target.value })}>
            {SPANS.map((n) => (
              <option key={n} value={n}>
                the last {n}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <div className="d-flex gap-2 no-print">
          {FORMS.map((form) => (
            <Download
              key={form}
              href={`${file}.${form}?weeks=${weeks}${r.reader ? `&reader=${r.reader}` : ""}${group ? `&group=${encodeURIComponent(group)}` : ""}`}
            >
              {form.toUpperCase()}
            </Download>
          ))}
          <Needs may="training">
            <Link className="btn btn-plain btn-sm" to={`/learning/${whose}/${id}`}>
              Learning
            </Link>
          </Needs>
        </div>
      </div>
      {r.sections.map((s) => (
        <ReportSection key={s.key} section={s} />
      ))}
    </div>
  );
}

function ReportSection({ section: s }: { section: Schemas["SectionOut"] }) {
  return (
    <section className="sheet mb-3" aria-label={s.title}>
      <div className="pad pb-1">
        <h2 className="mb-1">{s.title}</h2>
        {s.sentences.map((words) => (
          <p key={words} className="m-0">
            {words}
          </p>
        ))}
      </div>
      {s.charts.length > 0 && (
        <div className="report-charts pad py-1">
          {s.charts.map((c) => (
            <ReportChart key={c.title} chart={c} />
          ))}
        </div>
      )}
      {s.rows.length > 0 && (
        <div className="scroll-x">
          <table className="board">
            <thead>
              <tr>
                {s.columns.map((c) => (
                  <th key={c}>{c}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {s.rows.map((row, n) => (
                <tr key={n}>
                  {row.map((cell, at) => (
                    <td key={at} className={at > 0 ? "num" : undefined}>
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
