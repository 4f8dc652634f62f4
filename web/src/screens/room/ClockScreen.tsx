import { Link, useParams } from "react-router";

import { Failed, Loading } from "../../parts/states";
import { ClockFace } from "./ClockFace";
import { StartClock } from "./StartClock";
import { useLanes } from "./useRoom";

/** The clock for the whole room, as large as the screen allows; the racks' own clocks small beside it. */
export default function ClockScreen() {
  const id = Number(useParams().id);
  const { lanes, write } = useLanes(id, null);
  if (lanes.isPending) return <Loading what="the clock" />;
  if (lanes.isLoadingError) return <Failed error={lanes.error} again={() => void lanes.refetch()} />;
  const { room_clock, racks, squad } = lanes.data;
  const act = (clock: number, what: string) => void write(`/api/room/${id}/clocks/${clock}/${what}`, {}).catch(() => undefined);
  const own = lanes.data.lanes.filter((l) => l.clock);
  return (
    <div className="page">
      <div className="d-flex align-items-end gap-3 mb-2">
        <h1 className="mb-0">Room clock · {squad}</h1>
        <Link className="btn btn-plain tap ms-auto" to={`/room/${id}/racks`}>
          To the racks
        </Link>
      </div>
      {room_clock ? (
        <div className="sheet pad mb-3">
          <ClockFace clock={room_clock} big onAct={(what) => act(room_clock.id, what)} />
        </div>
      ) : (
        <p className="soft">No clock runs for the room. Choose one below.</p>
      )}
      {own.length > 0 && (
        <div className="d-flex flex-wrap gap-3 mb-3">
          {own.map((l) => (
            <div key={l.rack} className="sheet pad" style={{ width: 280 }}>
              <div className="soft small">Rack {l.rack}</div>
              {l.clock && <ClockFace clock={l.clock} onAct={(what) => l.clock && act(l.clock.id, what)} />}
            </div>
          ))}
        </div>
      )}
      {!room_clock && <StartClock roomId={id} racks={racks} write={write} started={() => undefined} />}
    </div>
  );
}
