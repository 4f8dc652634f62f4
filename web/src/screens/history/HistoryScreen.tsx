import { useInfiniteQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { longDay } from "../../parts/dates";
import { Empty, Failed, Loading } from "../../parts/states";
import { WhoseSelect } from "../../parts/WhoseSelect";
import { SettingsTabs } from "../settings/SettingsTabs";

type Act = Schemas["ActOut"];

/** What was done, by whom and for whom, the newest first. */
export default function HistoryScreen() {
  const [search, setSearch] = useSearchParams();
  const whose = search.get("of") ?? "";
  const [kind = "", id = ""] = whose.split("-");
  const asked = { athlete: kind === "athlete" ? Number(id) : null, squad: kind === "squad" ? Number(id) : null };
  const history = useInfiniteQuery({
    queryKey: keys.history(whose),
    initialPageParam: null as number | null,
    queryFn: ({ pageParam }) => need(api.GET("/api/history", { params: { query: { ...asked, before: pageParam } } })),
    getNextPageParam: (page) => page.older,
  });
  if (history.isPending) return <Loading what="what was done" />;
  if (history.isLoadingError) return <Failed error={history.error} again={() => void history.refetch()} />;
  const acts = history.data.pages.flatMap((p) => p.acts);
  const days = [...new Set(acts.map((a) => a.day))];
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-3">
        <div className="me-auto">
          <h1 className="mb-0">
            What was done <span className="soft fw-normal">· {history.data.pages[0]?.whom}</span>
          </h1>
          <p className="soft m-0">
            Every change of details, plans, the calendar and the floor, with who made it. Single sets stand in their sessions.
          </p>
        </div>
        <WhoseSelect id="history-of" value={whose} everybody="the whole centre" onChoose={(of) => setSearch(of ? { of } : {})} />
      </div>
      <SettingsTabs />
      {acts.length === 0 && <Empty title="Nothing has been done here yet." />}
      {days.map((day) => (
        <section key={day} className="sheet mb-3">
          <table className="board">
            <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
              {longDay(day)}
            </caption>
            <thead className="visually-hidden">
              <tr>
                <th>At</th>
                <th>What</th>
                <th>For</th>
                <th>By</th>
              </tr>
            </thead>
            <tbody>
              {acts
                .filter((a) => a.day === day)
                .map((a) => (
                  <Row key={a.id} act={a} />
                ))}
            </tbody>
          </table>
        </section>
      ))}
      {history.hasNextPage && (
        <button type="button" className="btn btn-plain" disabled={history.isFetchingNextPage} onClick={() => void history.fetchNextPage()}>
          Older
        </button>
      )}
    </div>
  );
}

function Row({ act: a }: { act: Act }) {
  return (
    <tr>
      <td className="num soft" style={{ width: 64 }}>
        {a.hour}
      </td>
      <td>{a.words}</td>
      <td style={{ width: "24%" }}>
        {a.athlete_id !== null ? (
          <Link to={`/athletes/${a.athlete_id}`}>{a.whom}</Link>
        ) : (
          a.whom || <span className="soft">the centre</span>
        )}
      </td>
      <td className="soft" style={{ width: "22%" }}>
        {a.by}
        {a.via && `, ${a.via}`}
      </td>
    </tr>
  );
}
