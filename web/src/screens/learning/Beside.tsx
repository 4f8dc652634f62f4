import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Failed, Loading } from "../../parts/states";

interface Props {
  whose: string;
  id: number;
  /** A group of the squad, or nothing for all of it. */
  group: string;
}

interface Chosen {
  first?: string;
  second?: string;
  day?: string;
}

function useBeside(whose: string, id: number, group: string, chosen: Chosen) {
  return useQuery({
    queryKey: keys.beside(whose, id, group, chosen.first ?? "", chosen.second ?? "", chosen.day ?? ""),
    queryFn: () => need(api.GET("/api/learning/{whose}/{pk}/beside", { params: { path: { whose, pk: id }, query: { ...chosen, group } } })),
    placeholderData: (before) => before,
  });
}

/** What two phases of an athlete brought, or two athletes of a squad on one day: the numbers of both, and what lies between. */
export function Beside({ whose, id, group }: Props) {
  const [chosen, setChosen] = useState<Chosen>({});
  const usual = useBeside(whose, id, group, {}); // what may be chosen stays on the page when a choice is refused
  const beside = useBeside(whose, id, group, chosen);
  const title = whose === "athlete" ? "Two phases beside each other" : "Two athletes beside each other";
  if (usual.isPending) return <Loading what={title.toLowerCase()} />;
  if (usual.isLoadingError) return <Failed error={usual.error} again={() => void usual.refetch()} />;
  const { choices, day } = usual.data;
  if (choices.length < 2) return null; // a second one is needed to compare
  const first = chosen.first ?? usual.data.first;
  const second = chosen.second ?? usual.data.second;
  const choose = (more: Chosen) => setChosen({ ...chosen, ...more });
  return (
    <section className="sheet mb-3" aria-label={title}>
      <div className="pad pb-1 d-flex flex-wrap align-items-end gap-3">
        <h2 className="me-auto mb-0">{title}</h2>
        <Choice id="beside-first" label="The one" of={choices} not={second} value={first} choose={(key) => choose({ first: key })} />
        <Choice id="beside-second" label="The other" of={choices} not={first} value={second} choose={(key) => choose({ second: key })} />
        {day && (
          <Form.Group controlId="beside-day">
            <Form.Label className="small mb-0">On</Form.Label>
            <Form.Control
              size="sm"
              type="date"
              value={chosen.day ?? day}
              onChange={(e) => e.target.value && choose({ day: e.target.value })}
            />
          </Form.Group>
        )}
      </div>
      {beside.isLoadingError ? (
        <div className="pad">
          <Failed error={beside.error} again={() => void beside.refetch()} />
        </div>
      ) : !beside.data ? (
        <Loading what={title.toLowerCase()} />
      ) : beside.data.rows.length === 0 ? (
        <p className="soft pad pt-0 m-0">Nothing is known of both.</p>
      ) : (
        <>
          <Table beside={beside.data} />
          <p className="soft small pad py-1 m-0">{beside.data.rule}</p>
        </>
      )}
    </section>
  );
}

interface ChoiceProps {
  id: string;
  label: string;
  of: Schemas["BesideChoiceOut"][];
  /** The other one, which cannot be chosen twice. */
  not: string;
  value: string;
  choose: (key: string) => void;
}

function Choice({ id, label, of, not, value, choose }: ChoiceProps) {
  return (
    <Form.Group controlId={id}>
      <Form.Label className="small mb-0">{label}</Form.Label>
      <Form.Select size="sm" value={value} onChange={(e) => choose(e.target.value)}>
        {of.map((c) => (
          <option key={c.key} value={c.key} disabled={c.key === not}>
            {c.words}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

function Table({ beside: b }: { beside: Schemas["BesideOut"] }) {
  const matters = b.rows.some((r) => r.worthwhile !== ""); // of phases nobody knows it
  const words = new Map(b.choices.map((c) => [c.key, c.words]));
  return (
    <div className="scroll-x">
      <table className="board">
        <thead>
          <tr>
            <th>Of what</th>
            <th>{words.get(b.first)}</th>
            <th>{words.get(b.second)}</th>
            <th>Difference</th>
            {matters && <th>Matters from</th>}
            <th>Beside its error</th>
          </tr>
        </thead>
        <tbody>
          {b.rows.map((r) => (
            <tr key={r.what}>
              <td>{r.what}</td>
              <td className="num">{r.first}</td>
              <td className="num">{r.second}</td>
              <td className="num">{r.difference}</td>
              {matters && <td className="num soft">{r.worthwhile || "–"}</td>}
              <td className={r.is_more_than_noise ? "fw-semibold" : "soft"}>{r.words || "–"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
