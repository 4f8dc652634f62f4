import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { RiseAnswers } from "../../parts/RiseAnswers";

const SHOWN = 8;

/** What waits for the coach, the most pressing first. */
export function Decisions({ decisions }: { decisions: Schemas["DecisionOut"][] }) {
  const [all, setAll] = useState(false);
  const shown = all ? decisions : decisions.slice(0, SHOWN);
  return (
    <aside aria-label="What needs a decision">
      <h2>Your decision {decisions.length > 0 && <span className="soft fw-normal">· {decisions.length}</span>}</h2>
      {decisions.length === 0 && <p className="soft">Nothing waits.</p>}
      {shown.map((d) => (
        <div key={`${d.kind}${d.athlete_id}${d.title}`} className={d.kind === "due" ? "note" : "note asks"}>
          <b>{d.athlete_name}.</b> {d.title}
          {d.title.endsWith("?") ? "" : "."} {d.rise ? <RiseAnswers rise={d.rise} isShort /> : d.text}
          <div className="mt-1">
            <Link to={d.path}>{d.path_words}</Link>
          </div>
        </div>
      ))}
      {decisions.length > SHOWN && (
        <button type="button" className="btn btn-link p-0" onClick={() => setAll(!all)}>
          {all ? "Fewer" : `${decisions.length - SHOWN} more`}
        </button>
      )}
    </aside>
  );
}
