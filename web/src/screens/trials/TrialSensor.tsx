import { useQuery, useQueryClient } from "@tanstack/react-query";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { send } from "../../api/outbox";

export type Measured = Schemas["MeasuredOut"];
const LOOK_MS = 600; // how often a trial asks what its sensor saw

/** What a trial's sensor has seen since the last try. */
export function useMeasured(trial: number, running: boolean): Measured | undefined {
  const found = useQuery({
    queryKey: keys.measured(trial),
    enabled: running,
    refetchInterval: (query) => (query.state.data?.chosen != null ? LOOK_MS : false),
    queryFn: () => need(api.GET("/api/trials/{trial_id}/measured", { params: { path: { trial_id: trial } } })),
  });
  return found.data;
}

/** Which sensor measures the trial; while it does, its numbers stand in the field until somebody types. */
export function TrialSensor({ trial, measured }: { trial: number; measured: Measured | undefined }) {
  const client = useQueryClient();
  if (!measured || measured.sensors.length === 0) return null;
  return (
    <label className="small">
      measured by
      <select
        className="form-select tap"
        value={measured.chosen ?? ""}
        onChange={(e) =>
          void send<Measured>(`/api/trials/${trial}/sensor`, { sensor_id: e.target.value ? Number(e.target.value) : null }, (fresh) =>
            client.setQueryData(keys.measured(trial), fresh),
          ).catch(() => undefined)
        }
      >
        <option value="">nobody: it is typed</option>
        {measured.sensors.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name}
          </option>
        ))}
      </select>
    </label>
  );
}
