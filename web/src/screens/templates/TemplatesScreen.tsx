import { useState } from "react";
import { Link } from "react-router";

import { api, need, type Problem, type Schemas } from "../../api/client";
import { useNames, useTemplates } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { shortDay } from "../../parts/dates";
import { lastAthlete } from "../../parts/Frame";
import { Failed, Loading, Trouble } from "../../parts/states";
import { LibraryTabs } from "../library/LibraryScreen";
import { Needs } from "../../parts/Needs";
import { counted } from "../../parts/counted";

type Template = Schemas["TemplateOut"];
const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** Blocks, sessions, weeks and phases kept for later: looked at, put on days, taken out as a file and in again. */
export default function TemplatesScreen() {
  const templates = useTemplates();
  const [open, setOpen] = useState<number | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const drop = useAction((id: number) => need(api.DELETE("/api/templates/{template_id}", { params: { path: { template_id: id } } })), {
    say: setProblem,
  });
  const takeIn = useAction((text: string) => need(api.POST("/api/templates/import", { body: { text } })), { say: setProblem });
  if (templates.isPending) return <Loading what="the templates" />;
  if (templates.isLoadingError) return <Failed error={templates.error} again={() => void templates.refetch()} />;
  return (
    <div className="page">
      <h1>Library</h1>
      <LibraryTabs />
      <section className="sheet">
        <table className="board">
          <thead>
            <tr>
              <th>Template</th>
              <th>Kind</th>
              <th>Holds</th>
              <th>Version</th>
              <th>
                <span className="visually-hidden">Use</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {templates.data.length === 0 && (
              <tr>
                <td colSpan={5} className="soft">
                  None yet. Session and week screens keep what they show under “Save as template”.
                </td>
              </tr>
            )}
            {templates.data.map((t) => (
              <Row
                key={t.id}
                template={t}
                open={open === t.id}
                onOpen={() => setOpen(open === t.id ? null : t.id)}
                onDrop={() => drop.run(t.id)}
              />
            ))}
          </tbody>
        </table>
        <Needs may="plan">
          <label className="pad d-block border-top small">
            Import a template (JSON)
            <input
              type="file"
              accept=".json,application/json"
              className="form-control form-control-sm"
              style={{ maxWidth: 360 }}
              onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = "";
                if (file) void file.text().then((text) => takeIn.run(text));
              }}
            />
          </label>
        </Needs>
        {problem && <Trouble problem={problem} />}
      </section>
    </div>
  );
}

function Row({ template: t, open, onOpen, onDrop }: { template: Template; open: boolean; onOpen: () => void; onDrop: () => void }) {
  return (
    <>
      <tr>
        <td>
          <b>{t.name}</b>
          {t.note && <div className="soft small">{t.note}</div>}
        </td>
        <td>{t.kind}</td>
        <td>{t.words}</td>
        <td className="num">
          {t.version}
          {t.versions.length > 1 && <span className="soft"> of {t.versions.length}</span>}
        </td>
        <td className="right nowrap">
          {t.kind === "block" ? (
            <span className="soft small">put in on a session</span>
          ) : (
            <button
              type="button"
              className="btn btn-link btn-sm p-0"
              aria-expanded={open}
              aria-label={`Use template: ${t.name}`}
              onClick={onOpen}
            >
              Use template
            </button>
          )}
          <a className="btn btn-link btn-sm p-0 ms-3" href={`/api/export/templates/${t.id}.json`} aria-label={`JSON: ${t.name}`}>
            JSON
          </a>
          <button type="button" className="btn btn-link btn-sm p-0 ms-3" aria-label={`Take out: ${t.name}`} onClick={onDrop}>
            Take out
          </button>
        </td>
      </tr>
      {open && (
        <tr>
          <td colSpan={5}>
            <Use template={t} />
          </td>
        </tr>
      )}
    </>
  );
}

/** Whom it is for and from which day; first what it would do, then doing it. */
function Use({ template: t }: { template: Template }) {
  const squads = useNames();
  const [athlete, setAthlete] = useState(lastAthlete() ?? 0);
  const [day, setDay] = useState("");
  const [scope, setScope] = useState("athlete");
  const [seen, setSeen] = useState<Schemas["TemplatePreviewOut"] | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [said, setSaid] = useState<Schemas["CopyOut"] | null>(null);
  const path = { params: { path: { template_id: t.id } } };
  const body = { athlete_id: athlete, day, scope };
  const look = useAction(() => need(api.POST("/api/templates/{template_id}/preview", { ...path, body })), {
    after: () => undefined,
    say: setProblem,
  });
  const use = useAction(() => need(api.POST("/api/templates/{template_id}/apply", { ...path, body })), { say: setProblem });
  const changed = () => {
    setSeen(null);
    setSaid(null);
    setProblem(null);
  };
  return (
    <form
      aria-label={`Put ${t.name} on days`}
      onSubmit={(e) => {
        e.preventDefault();
        look.run(undefined, setSeen);
      }}
    >
      <div className="d-flex flex-wrap gap-2 align-items-end">
        <label className="small">
          Athlete
          <select className="form-select form-select-sm" value={athlete} onChange={(e) => (setAthlete(Number(e.target.value)), changed())}>
            {squads.data?.map((s) => (
              <optgroup key={s.id} label={s.name}>
                {s.athletes.map((a) => (
                  <option key={a.id} value={a.id}>
                    {a.name}
                  </option>
                ))}
              </optgroup>
            ))}
          </select>
        </label>
        <label className="small">
          For
          <select className="form-select form-select-sm" value={scope} onChange={(e) => (setScope(e.target.value), changed())}>
            <option value="athlete">this athlete</option>
            <option value="group">the group</option>
            <option value="squad">the squad</option>
          </select>
        </label>
        <label className="small">
          {t.kind === "session" ? "On" : "From the week of"}
          <input
            type="date"
            className="form-control form-control-sm"
            value={day}
            required
            onChange={(e) => (setDay(e.target.value), changed())}
          />
        </label>
        <button type="submit" className="btn btn-plain btn-sm" disabled={look.isPending}>
          Show what it would do
        </button>
      </div>
      {problem && <Trouble problem={problem} />}
      {seen && !said && (
        <div className="note asks mt-2">
          <b>
            {counted(seen.sessions.length, "session")} on {seen.days.slice(0, 4).map(shortDay).join(", ")}
            {seen.days.length > 4 && ` and ${seen.days.length - 4} more days`}.
          </b>{" "}
          {seen.replaces.length > 0
            ? `In place of: ${seen.replaces.slice(0, 4).join("; ")}${seen.replaces.length > 4 ? ` and ${seen.replaces.length - 4} more` : ""}.`
            : "Nothing stands there now."}
          <ul className="mb-1">
            {seen.sessions.slice(0, 4).map((s) => (
              <li key={`${s.week}${s.weekday}${s.theme}`}>
                {seen.kind !== "session" && `Week ${s.week + 1}, ${WEEKDAYS[s.weekday] ?? ""}: `}
                {s.theme} · <span className="soft">{s.lines.map((l) => `${l.slot} ${l.exercise} ${l.text}`).join(" · ")}</span>
              </li>
            ))}
          </ul>
          <button
            type="button"
            className="btn btn-link p-0 fw-semibold"
            disabled={use.isPending}
            onClick={() => use.run(undefined, setSaid)}
          >
            Put it there
          </button>
        </div>
      )}
      {said && (
        <p className="mt-2 mb-0" role="status">
          {said.done.length > 0
            ? `Done for ${said.done.length === 1 ? said.done[0] : `${said.done.length} athletes`}. `
            : "Done for nobody. "}
          {said.left.length > 0 && `Not: ${said.left.join("; ")}. `}
          <Link to={`/athletes/${athlete}/week/${day}`}>Open the week</Link>, where undo takes it back.
        </p>
      )}
    </form>
  );
}
