import { useQuery } from "@tanstack/react-query";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Empty, Failed, Loading } from "../../parts/states";

type Sheet = Schemas["RackSheetOut"];
type Rack = Schemas["RackOut"];

interface Props {
  athleteId: number;
  day: string;
  session: string;
  racks: number | null;
  onRacks: (racks: number) => void;
}

/** Who lifts at which rack, in which order, and what changes on the bar from one to the next. */
export function RackSheet({ athleteId, day, session, racks, onRacks }: Props) {
  const sheet = useQuery({
    queryKey: keys.rackSheet(athleteId, day, session, racks),
    placeholderData: (before: Sheet | undefined) => before,
    queryFn: () =>
      need(
        api.GET("/api/athletes/{athlete_id}/sessions/{day}/{key}/racks", {
          params: { path: { athlete_id: athleteId, day, key: session }, query: racks === null ? {} : { racks } },
        }),
      ),
  });
  if (sheet.isPending) return <Loading what="the racks" />;
  if (sheet.isLoadingError) return <Failed error={sheet.error} again={() => void sheet.refetch()} />;
  const s = sheet.data;
  if (s.lifts.length === 0) return <Empty title="No lift of this session is done with a barbell and a load." />;
  return (
    <>
      <label className="small no-print d-inline-flex gap-2 align-items-center mb-2">
        racks
        <select
          className="form-select form-select-sm"
          style={{ width: 80 }}
          value={s.racks}
          onChange={(e) => onRacks(Number(e.target.value))}
        >
          {Array.from({ length: s.most_racks }, (_, i) => (
            <option key={i}>{i + 1}</option>
          ))}
        </select>
      </label>
      {s.lifts.map((lift) => (
        <section key={lift.slot} className="rack-lift" aria-label={`${lift.slot} ${lift.exercise}`}>
          <h2>
            {lift.slot} {lift.exercise} <span className="num soft">{lift.text}</span>
          </h2>
          {lift.learned.map((words) => (
            <p key={words} className="m-0 fw-semibold">
              {words}
            </p>
          ))}
          <div className="rack-grid">
            {lift.racks.map((r) => (
              <OneRack key={r.number} rack={r} unit={lift.unit} />
            ))}
          </div>
        </section>
      ))}
    </>
  );
}

function OneRack({ rack, unit }: { rack: Rack; unit: string }) {
  return (
    <table className="board sheet" aria-label={`Rack ${rack.number}`}>
      <thead>
        <tr>
          <th>Rack {rack.number}</th>
          <th className="right">{unit}</th>
          <th>A side</th>
          <th>Change from the one before</th>
          <th>Sets</th>
        </tr>
      </thead>
      <tbody>
        {rack.turns.map((t) => (
          <tr key={t.name}>
            <th scope="row" className="text-body">
              {t.name}
            </th>
            <td className="right num wall-load">{t.load}</td>
            <td className="num">{t.sides}</td>
            <td className="small">{t.change}</td>
            <td>
              <Ticks sets={t.sets} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A square for each set, to tick on paper. */
export function Ticks({ sets }: { sets: number }) {
  return (
    <span className="ticks" role="img" aria-label={`${sets} ${sets === 1 ? "set" : "sets"}`}>
      {Array.from({ length: sets }, (_, i) => (
        <i key={i} />
      ))}
    </span>
  );
}
