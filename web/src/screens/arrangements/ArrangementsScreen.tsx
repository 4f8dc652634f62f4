import { useArrangements } from "../../api/hooks";
import { Failed, Loading } from "../../parts/states";

/** Every arrangement over time: its phases, and what it is good and bad for. */
export default function ArrangementsScreen() {
  const arrangements = useArrangements();
  if (arrangements.isPending) return <Loading what="the season models" />;
  if (arrangements.isLoadingError) return <Failed error={arrangements.error} again={() => void arrangements.refetch()} />;
  return (
    <div className="page">
      <h1>Season models</h1>
      <p className="soft">
        Schools differ; each is here with what speaks for it. All are built backwards from the day. Linear is simple and easy to recover in;
        concurrent is messier to plan and shows more weak points in one session; small doses make a missed day cheap.
      </p>
      {arrangements.data.map((a) => (
        <section className="sheet mb-3" key={a.key} aria-labelledby={`a-${a.key}`}>
          <div className="pad pb-0">
            <h2 id={`a-${a.key}`}>{a.name}</h2>
            <dl className="row small mb-1">
              <dt className="col-sm-2">Good for</dt>
              <dd className="col-sm-10 mb-0">{a.good_for}</dd>
              <dt className="col-sm-2">For whom</dt>
              <dd className="col-sm-10 mb-0">{a.for_whom}</dd>
              <dt className="col-sm-2">Weak at</dt>
              <dd className="col-sm-10 mb-0">{a.weakness}</dd>
              <dt className="col-sm-2">Fatigue</dt>
              <dd className="col-sm-10 mb-0">{a.fatigue}</dd>
              <dt className="col-sm-2">How it is built</dt>
              <dd className="col-sm-10 mb-0">
                {a.how} <span className="soft">({a.source})</span>
              </dd>
            </dl>
          </div>
          <table className="board">
            <caption className="visually-hidden">Phases of {a.name}</caption>
            <thead>
              <tr>
                <th style={{ width: "18%" }}>Phase</th>
                <th className="right">Weeks</th>
                <th className="right">Volume</th>
                <th className="right">Heaviest lift of the week, % 1RM</th>
                <th>Builds, keeps</th>
                <th>Exercises</th>
                <th>Accessories</th>
              </tr>
            </thead>
            <tbody>
              {a.phases.map((p) => (
                <tr key={p.name}>
                  <th scope="row" className="text-body">
                    {p.name}
                  </th>
                  <td className="right num nowrap">
                    {p.least_weeks}–{p.most_weeks}
                  </td>
                  <td className="right num">{Math.round(100 * p.volume)} %</td>
                  <td className="right num nowrap">
                    {p.low_pct}–{p.high_pct}
                  </td>
                  <td className="small">
                    {p.builds.join(", ")}
                    {p.keeps.length > 0 && <div className="soft">keeps {p.keeps.join(", ")}</div>}
                  </td>
                  <td className="small">{p.exercises}</td>
                  <td className="small soft">{p.accessories}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </div>
  );
}
