import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link, Navigate, useParams, useSearchParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useMay, useSettings } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { Needs } from "../../parts/Needs";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";
import { CentreHabits, CentreName, Zone } from "./Centre";
import { Kits } from "./Kits";
import { SettingsTabs } from "./SettingsTabs";
import { Equations, Values } from "./Values";

type Settings = Schemas["SettingsOut"];

/** The settings, room by room: the centre itself, kits, and the values of the job. */
export default function SettingsScreen() {
  const settings = useSettings();
  const { room = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const wanted = search.get("find") ?? "";
  if (settings.isPending) return <Loading what="the settings" />;
  if (settings.isLoadingError) return <Failed error={settings.error} again={() => void settings.refetch()} />;
  const s = settings.data;
  const shown = s.rooms.find((r) => r.key === room);
  if (room !== "" && room !== "kits" && !shown) return <Navigate to="/settings" replace />;
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <h1 className="m-0">{shown ? `Settings · ${shown.name}` : room === "kits" ? "Settings · Kits" : "Settings"}</h1>
        <Form.Control
          className="ms-auto"
          size="sm"
          aria-label="Find a value"
          placeholder="Find a value"
          value={wanted}
          onChange={(e) => setSearch(e.target.value ? { find: e.target.value } : {}, { replace: true })}
          style={{ width: 190 }}
        />
        <Reset settings={s} />
      </div>
      <SettingsTabs />
      {wanted.trim() ? (
        <Found settings={s} wanted={wanted} />
      ) : shown ? (
        <Room settings={s} room={shown} />
      ) : (
        <Own settings={s} room={room} />
      )}
    </div>
  );
}

function Reset({ settings: s }: { settings: Settings }) {
  const may = useMay();
  const reset = useAction(() => need(api.POST("/api/settings/reset")));
  const changed = s.rooms.flatMap((r) => r.groups.flatMap((g) => g.rules)).filter((r) => r.changed).length;
  if (!may("centre")) return null;
  return (
    <>
      <Button size="sm" variant="plain" disabled={changed === 0 || reset.isPending} onClick={() => reset.run(undefined)}>
        {changed === 0 ? "All at their defaults" : `Back to the defaults (${changed} changed)`}
      </Button>
      {reset.problem && <Trouble problem={reset.problem} />}
    </>
  );
}

/** The values whose name or explanation holds what was typed, whatever room they are in. */
function Found({ settings: s, wanted }: { settings: Settings; wanted: string }) {
  const needle = wanted.trim().toLowerCase();
  const groups = s.rooms
    .flatMap((r) => r.groups)
    .map((g) => ({ ...g, rules: g.rules.filter((r) => `${g.name} ${r.name} ${r.text}`.toLowerCase().includes(needle)) }))
    .filter((g) => g.rules.length > 0);
  return groups.length === 0 ? <Empty title={`No value is called “${wanted}”.`} /> : <Values groups={groups} />;
}

function Room({ settings: s, room }: { settings: Settings; room: Schemas["ValuesOut"] }) {
  return (
    <>
      <p className="soft">Common practice or Jarvok's own default, and yours to change. Published values stand in their tables.</p>
      {room.key === "loads" && (
        <Needs may="centre">
          <Equations settings={s} />
        </Needs>
      )}
      <Values groups={room.groups} />
    </>
  );
}

/** The rooms that hold no values: the centre itself, and its kits. */
function Own({ settings: s, room }: { settings: Settings; room: string }) {
  if (room === "kits") return <Kits settings={s} />;
  return (
    <div style={{ maxWidth: 620 }}>
      <Needs may="centre">
        <CentreName key={`name-${s.name}`} settings={s} />
        <Zone key={s.zone} settings={s} />
        <CentreHabits key={`${s.unit} ${s.day_order}`} settings={s} />
      </Needs>
      <p>
        <Link to="/shorthand">How a line is written</Link> · <Link to="/library">The library of exercises</Link> ·{" "}
        <Link to="/squads">Squads</Link>
      </p>
    </div>
  );
}
