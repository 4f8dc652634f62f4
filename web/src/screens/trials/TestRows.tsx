import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { dayYear } from "../../parts/dates";

/** The tests of an athlete, of whatever kind, the newest first; each leads to where it runs or ran. */
export function TestRows({ tests, caption }: { tests: Schemas["TestRowOut"][]; caption: string }) {
  return (
    <div className="sheet">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          {caption}
        </caption>
        <thead>
          <tr>
            <th>Day</th>
            <th>Test</th>
            <th>Outcome</th>
          </tr>
        </thead>
        <tbody>
          {tests.length === 0 && (
            <tr>
              <td colSpan={3} className="soft">
                Nothing has been tested yet.
              </td>
            </tr>
          )}
          {tests.map((x) => (
            <tr key={x.id}>
              <td className="nowrap">{dayYear(x.day)}</td>
              <td>
                <Link to={`/${x.is_guided ? "tests" : "trials"}/${x.id}`}>{x.exercise}</Link>
                <div className="soft small">{x.name}</div>
              </td>
              <td>{x.running ? <b>running</b> : x.outcome}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
