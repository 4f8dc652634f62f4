import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";
import { DeviceTable } from "./DeviceTable";
import { SettingsTabs } from "../settings/SettingsTabs";

type Sensors = Schemas["SensorsOut"];

/** The sensors of the room: what they measure, at which rack they stand, where they send, and a stand-in for each. */
export default function SensorsScreen() {
  const client = useQueryClient();
  const sensors = useQuery({ queryKey: keys.sensors, queryFn: () => need(api.GET("/api/sensors")) });
  const [problem, setProblem] = useState<Problem | null>(null);
  const [said, setSaid] = useState("");
  if (sensors.isPending) return <Loading what="the sensors" />;
  if (sensors.isLoadingError) return <Failed error={sensors.error} again={() => void sensors.refetch()} />;
  const s = sensors.data;
  const run = (call: Promise<Sensors>) => {
    setProblem(null);
    return call
      .then((fresh) => {
        client.setQueryData(keys.sensors, fresh);
        return true;
      })
      .catch((e: unknown) => {
        setProblem(problemOf(e));
        return false;
      });
  };
  const attempt = (id: number, fault: string) => {
    setProblem(null);
    need(api.POST("/api/sensors/{sensor_id}/try", { params: { path: { sensor_id: id } }, body: { fault } }))
      .then((answer) => setSaid(answer.words))
      .catch((e: unknown) => setProblem(problemOf(e)));
  };
  return (
    <div className="page">
      <h1>Sensors of the room</h1>
      <SettingsTabs />
      <p className="soft">
        A sensor stands at a rack; what it measures goes to whoever is up there. Anyone with its address can send data: keep it to yourself.
      </p>
      {problem && (
        <div className="mb-2">
          <Trouble problem={problem} />
        </div>
      )}
      {said && (
        <p className="soft" role="status">
          {said}
        </p>
      )}
      <AddSensor sorts={s.sorts} most={s.most_racks} add={(body) => run(need(api.POST("/api/sensors", { body })))} />
      {s.sensors.length === 0 ? (
        <div className="mb-4">
          <Empty title="No sensor yet.">Add one above. Without a real one, the simulated sensor sends what such a sensor would.</Empty>
        </div>
      ) : (
        <div className="sheet mb-4">
          <table className="board">
            <thead>
              <tr>
                <th>Sensor</th>
                <th>Rack</th>
                <th>Sends to</th>
                <th>Simulated</th>
                <th>
                  <span className="visually-hidden">Take out</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {s.sensors.map((x) => (
                <SensorRow
                  key={x.id}
                  sensor={x}
                  faults={s.faults}
                  most={s.most_racks}
                  attempt={attempt}
                  pair={(rack) =>
                    void run(need(api.PUT("/api/sensors/{sensor_id}/rack", { params: { path: { sensor_id: x.id } }, body: { rack } })))
                  }
                  place={(gates) =>
                    run(need(api.PUT("/api/sensors/{sensor_id}/gates", { params: { path: { sensor_id: x.id } }, body: { gates } })))
                  }
                  remove={() => void run(need(api.DELETE("/api/sensors/{sensor_id}", { params: { path: { sensor_id: x.id } } })))}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
      <DeviceTable devices={s.devices} kept={() => void sensors.refetch()} />
    </div>
  );
}

interface RowProps {
  sensor: Schemas["SensorOut"];
  faults: Schemas["FaultOut"][];
  most: number;
  attempt: (id: number, fault: string) => void;
  pair: (rack: number | null) => void;
  place: (gates: string) => Promise<boolean>;
  remove: () => void;
}

function SensorRow({ sensor: x, faults, most, attempt, pair, place, remove }: RowProps) {
  const [fault, setFault] = useState("");
  return (
    <tr>
      <td>
        <b>{x.name}</b>
        <div className="soft small">
          {x.sort_name}
          {x.readings > 0 && `, ${x.readings} readings`}
        </div>
        {x.gates !== null && <GatePlaces key={x.gates} of={x.name} stand={x.gates} place={place} />}
      </td>
      <td>
        <select
          className="form-select form-select-sm tap"
          style={{ width: 80 }}
          aria-label={`Rack of ${x.name}`}
          value={x.rack ?? ""}
          onChange={(e) => pair(e.target.value ? Number(e.target.value) : null)}
        >
          <option value="">none</option>
          <Racks most={most} />
        </select>
      </td>
      <td>
        <code className="small text-break text-body">{x.path}</code>
      </td>
      <td>
        <div className="d-flex gap-2">
          <select
            className="form-select form-select-sm tap"
            aria-label={`Fault of ${x.name}`}
            value={fault}
            onChange={(e) => setFault(e.target.value)}
          >
            <option value="">no fault</option>
            {faults.map((f) => (
              <option key={f.key} value={f.key}>
                {f.words}
              </option>
            ))}
          </select>
          <Button variant="plain" className="tap nowrap flex-shrink-0" onClick={() => attempt(x.id, fault)}>
            {x.gates === null ? "Send a set" : "Send a run"}
          </Button>
        </div>
      </td>
      <td>
        <Button variant="plain" className="tap" aria-label={`Take out ${x.name}`} onClick={remove}>
          Take out
        </Button>
      </td>
    </tr>
  );
}

interface PlacesProps {
  of: string;
  stand: string;
  place: (gates: string) => Promise<boolean>;
}

/** Where timing gates stand: kept when the field is left, or with Enter. */
function GatePlaces({ of, stand, place }: PlacesProps) {
  const [text, setText] = useState(stand);
  const keep = () => text.trim() !== stand && void place(text);
  return (
    <form
      className="small"
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      <label>
        Gates at, m from the start
        <input
          className="form-control form-control-sm tap"
          aria-label={`Gates of ${of} at, m from the start`}
          placeholder="5 10 20 30"
          value={text}
          onChange={(e) => setText(e.target.value)}
          onBlur={keep}
        />
      </label>
      {stand === "" && <div className="soft">Without it a run has a time, and no curve.</div>}
    </form>
  );
}

interface AddProps {
  sorts: Schemas["FaultOut"][];
  most: number;
  add: (body: Schemas["SensorIn"]) => Promise<boolean>;
}

function AddSensor({ sorts, most, add }: AddProps) {
  const [name, setName] = useState("");
  const [sort, setSort] = useState("bar");
  const [rack, setRack] = useState("");
  const [gates, setGates] = useState("");
  return (
    <form
      className="sheet pad mb-3 d-flex flex-wrap gap-3 align-items-end"
      onSubmit={(e) => {
        e.preventDefault();
        void add({ name, sort, rack: rack ? Number(rack) : null, rate_hz: 100, gates: sort === "gates" ? gates : "" }).then(
          (kept) => kept && setName(""),
        );
      }}
    >
      <label className="small">
        Name
        <input className="form-control tap" maxLength={40} required value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      <label className="small">
        Measures
        <select className="form-select tap" value={sort} onChange={(e) => setSort(e.target.value)}>
          {sorts.map((x) => (
            <option key={x.key} value={x.key}>
              {x.words}
            </option>
          ))}
        </select>
      </label>
      <label className="small">
        Rack
        <select className="form-select tap" value={rack} onChange={(e) => setRack(e.target.value)}>
          <option value="">none yet</option>
          <Racks most={most} />
        </select>
      </label>
      {sort === "gates" && (
        <label className="small">
          Gates at, m from the start
          <input className="form-control tap" placeholder="5 10 20 30" value={gates} onChange={(e) => setGates(e.target.value)} />
        </label>
      )}
      <Button type="submit" className="tap px-3">
        Add it
      </Button>
    </form>
  );
}

/** The racks a sensor may stand at. */
function Racks({ most }: { most: number }) {
  return Array.from({ length: most }, (_, i) => (
    <option key={i} value={i + 1}>
      {i + 1}
    </option>
  ));
}
