import { Link } from "react-router";

import { Download } from "../../parts/Download";
import { Needs } from "../../parts/Needs";

/** An athlete on paper and as open files. */
export function TakeOut({ id }: { id: number }) {
  return (
    <section className="sheet pad mb-3" aria-label="On paper and as files">
      <h2>On paper and as files</h2>
      <div className="d-flex flex-wrap gap-2 align-items-center">
        <Link className="btn btn-plain btn-sm" to={`/report/athlete/${id}`}>
          Report of the last weeks
        </Link>
        <a className="btn btn-plain btn-sm" href={`/api/export/athletes/${id}/file.pdf`} target="_blank" rel="noreferrer">
          Print the file
        </a>
        <Download href={`/api/export/athletes/${id}/plan.json`}>Plan as JSON</Download>
        <Needs may="plan">
          <Download href={`/api/export/athletes/${id}.json`}>Everything as JSON</Download>
        </Needs>
      </div>
      <p className="soft small mb-0 mt-1">
        Everything is for the athlete, when they ask what is known of them: results, plans, sessions, answers, notes.
      </p>
    </section>
  );
}
