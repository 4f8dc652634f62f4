import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { stale } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { HabitFields } from "../../parts/HabitFields";
import { Trouble } from "../../parts/states";

type Settings = Schemas["SettingsOut"];

/** What the centre is called. */
export function CentreName({ settings: s }: { settings: Settings }) {
  const [typed, setTyped] = useState(s.name);
  const save = useAction((name: string) => need(api.PUT("/api/settings/name", { body: { name } })));
  return (
    <form
      className="sheet pad mb-3"
      aria-label="Name of the centre"
      onSubmit={(e) => {
        e.preventDefault();
        save.run(typed);
      }}
    >
      <h2>Name</h2>
      <div className="d-flex gap-2">
        <Form.Control size="sm" aria-label="Name of the centre" value={typed} maxLength={80} onChange={(e) => setTyped(e.target.value)} />
        <Button size="sm" type="submit" disabled={typed.trim() === s.name || save.isPending}>
          Save
        </Button>
      </div>
      {save.problem && <Trouble problem={save.problem} />}
    </form>
  );
}

/** What holds for rooms that name no unit of their own, and for people who have chosen nothing. */
export function CentreHabits({ settings: s }: { settings: Settings }) {
  const client = useQueryClient();
  const [typed, setTyped] = useState({ unit: s.unit, day_order: s.day_order });
  const save = useAction((body: Schemas["NewHabits"]) => need(api.PUT("/api/settings/habits", { body })), {
    after: () => void stale.everything(client),
  });
  return (
    <form
      className="sheet pad mb-3"
      aria-label="Units and dates"
      onSubmit={(e) => {
        e.preventDefault();
        save.run(typed);
      }}
    >
      <h2>Units and dates</h2>
      <p className="soft small mb-2">
        For athletes without a kit, and for whoever has chosen nothing else under their own name. A kit says what stands on its plates.
      </p>
      <HabitFields unit={typed.unit} dayOrder={typed.day_order} onChange={(unit, day_order) => setTyped({ unit, day_order })} />
      <Button size="sm" type="submit" disabled={(typed.unit === s.unit && typed.day_order === s.day_order) || save.isPending}>
        Save
      </Button>
      {save.problem && <Trouble problem={save.problem} />}
    </form>
  );
}

/** Where the centre lies: when its day begins, and what an hour in a calendar means. */
export function Zone({ settings: s }: { settings: Settings }) {
  const [typed, setTyped] = useState(s.zone);
  const save = useAction((zone: string) => need(api.PUT("/api/settings/zone", { body: { zone } })));
  return (
    <form
      className="sheet pad mb-3"
      aria-label="Time zone"
      onSubmit={(e) => {
        e.preventDefault();
        save.run(typed.trim());
      }}
    >
      <h2>Time zone</h2>
      <p className="soft small mb-2">
        When the day begins here, and what hours in calendars mean. In force: {s.zone_in_force}
        {s.zone === "" && ", that of this server"}.
      </p>
      <div className="d-flex gap-2">
        <Form.Control
          size="sm"
          aria-label="Time zone of the centre"
          list="zones"
          value={typed}
          placeholder={s.zone_in_force}
          onChange={(e) => setTyped(e.target.value)}
        />
        <datalist id="zones">
          {s.zones.map((z) => (
            <option key={z} value={z} />
          ))}
        </datalist>
        <Button size="sm" type="submit" disabled={typed.trim() === s.zone || save.isPending}>
          Save
        </Button>
      </div>
      {save.problem && <Trouble problem={save.problem} />}
    </form>
  );
}
