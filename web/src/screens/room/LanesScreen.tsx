import { useEffect, useState } from "react";
import Button from "react-bootstrap/Button";
import { Link, useParams } from "react-router";

import { api, need } from "../../api/client";
import { keepRackLink } from "../../api/outbox";
import { clock } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";
import { FromDevice, Heard, Unsent } from "../../parts/Unsent";
import { SignInAgain } from "../../parts/SignInAgain";
import { useSound } from "../../parts/sound";
import { SoundButton } from "../../parts/SoundButton";
import { useNow } from "../../parts/useNow";
import { Lane } from "./Lane";
import { useClock } from "./useClock";
import { useLanes, type ClockData } from "./useRoom";

/** All racks of the room on one screen, two to eight, or one of them as large as the screen. */
export default function LanesScreen() {
  const params = useParams();
  const id = Number(params.id);
  const rack = params.rack ? Number(params.rack) : null;
  const { lanes, shown, connected, write } = useLanes(id, rack);
  const now = useNow(1000);
  const [link, setLink] = useState("");
  if (lanes.isPending) return <Loading what="the racks" />;
  if (lanes.isLoadingError) return <Failed error={lanes.error} again={() => void lanes.refetch()} />;
  const l = shown ?? lanes.data;
  const makeLink = () =>
    void need(api.POST("/api/room/{room_id}/racks/{rack}/link", { params: { path: { room_id: id, rack: rack ?? 1 } } })).then((made) =>
      setLink(`${window.location.origin}${made.path}`),
    );
  return (
    <>
      <h1 className="visually-hidden">{rack === null ? `Racks, ${l.squad}` : `Rack ${rack}, ${l.squad}`}</h1>
      <div className="floor-bar">
        {l.room_clock ? <RoomClock data={l.room_clock} /> : <b style={{ fontSize: "1.3rem" }}>{l.squad}</b>}
        <span className="lab wide-only">
          <b>{l.here}</b> here
          <br />
          rests for {l.goal}
        </span>
        {rack === null && (
          <span className="lab wide-only">
            next lifter
            <br />
            <b>
              {l.lanes
                .map((lane) => ({ rack: lane.rack, next: lane.turns.find((t) => !t.is_up && !t.is_over) }))
                .filter((x) => x.next)
                .slice(0, 4)
                .map((x) => `rack ${x.rack}: ${x.next?.name}${x.next?.load_words ? `, ${x.next.load_words}` : ""}`)
                .join(" · ") || "nobody waits"}
            </b>
          </span>
        )}
        <span className="ms-auto d-flex gap-2 align-items-center flex-wrap">
          <Heard connected={connected} />
          <SoundButton variant="outline-light" />
          {rack === null ? (
            <>
              <Link className="btn btn-outline-light" to={`/room/${id}`}>
                Arrival
              </Link>
              <Link className="btn btn-outline-light" to={`/room/${id}/clock`}>
                Room clock
              </Link>
              <Link className="btn btn-outline-light" to={`/room/${id}/board`}>
                Board
              </Link>
            </>
          ) : (
            <>
              <Button onClick={makeLink}>Link for a tablet</Button>
              <Link className="btn btn-outline-light" to={`/room/${id}/racks`}>
                All racks
              </Link>
            </>
          )}
        </span>
      </div>
      {link && (
        <p className="pad m-0" role="status">
          Opens this rack only, for eight hours:{" "}
          <a href={link} className="text-break">
            {link}
          </a>
        </p>
      )}
      <div className="lanes" data-count={l.lanes.length}>
        {l.lanes.map((lane) => (
          <Lane key={lane.rack} roomId={id} lane={lane} now={now} large={rack !== null} write={write} />
        ))}
      </div>
    </>
  );
}

function RoomClock({ data }: { data: ClockData }) {
  const [sound] = useSound();
  const face = useClock(data, sound);
  return (
    <span className="d-flex align-items-center gap-2" role="timer" aria-label={`Room clock, ${data.name}`}>
      <span className="clock">{face.left}</span>
      <span className="lab">
        <b>{face.call}</b>
        <br />
        {face.round || face.next}
      </span>
    </span>
  );
}

/** A rack's own tablet: opened by a link, nothing else is shown. */
export function RackLinkScreen() {
  const token = useParams().token ?? "";
  const [opened, setOpened] = useState<{ id: number; rack: number } | null>(null);
  const [error, setError] = useState<unknown>(null);
  useEffect(() => {
    keepRackLink(token);
    need(api.GET("/api/rack-links/{token}", { params: { path: { token } } }))
      .then((l) => setOpened({ id: l.id, rack: l.lanes[0]?.rack ?? 1 }))
      .catch(setError);
  }, [token]);
  if (error) return <Failed error={error} again={() => window.location.reload()} />;
  if (!opened) return <Loading what="the rack" />;
  return <OneRack id={opened.id} rack={opened.rack} token={token} />;
}

function OneRack({ id, rack, token }: { id: number; rack: number; token: string }) {
  const { lanes, shown, connected, write } = useLanes(id, rack, token);
  const now = useNow(1000);
  if (lanes.isPending) return <Loading what="the rack" />;
  if (lanes.isLoadingError) return <Failed error={lanes.error} again={() => void lanes.refetch()} />;
  const lane = (shown ?? lanes.data).lanes[0];
  return (
    <main>
      <SignInAgain />
      <div className="floor-bar">
        <h1 className="m-0" style={{ fontSize: "1.3rem" }}>
          Rack {rack}
        </h1>
        <span className="lab">{lanes.data.squad}</span>
        {lane?.up?.last_done_at && <span className="clock">{clock(Math.max(0, (now - Date.parse(lane.up.last_done_at)) / 1000))}</span>}
        <span className="ms-auto d-flex gap-2 align-items-center">
          <Heard connected={connected} />
          <FromDevice />
          <Unsent />
        </span>
        <SoundButton variant="outline-light" />
      </div>
      <div className="lanes" data-count={1}>
        {lane && <Lane roomId={id} lane={lane} now={now} large limited write={write} />}
      </div>
    </main>
  );
}
