import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need } from "../../api/client";
import { useNames } from "../../api/hooks";
import { keys } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { Trouble } from "../../parts/states";
import { counted } from "../../parts/counted";

/** Somebody who was written down twice: the one of this page stays and takes over what is known of the other. */
export function Merge({ id, name, onClose }: { id: number; name: string; onClose: () => void }) {
  const squads = useNames();
  const [other, setOther] = useState(0);
  const [typed, setTyped] = useState("");
  const path = { athlete_id: id };
  const seen = useQuery({
    queryKey: keys.merge(id, other),
    enabled: other > 0,
    queryFn: () => need(api.POST("/api/athletes/{athlete_id}/merge/preview", { params: { path }, body: { other_id: other, name: "" } })),
  });
  const merge = useAction(() =>
    need(api.POST("/api/athletes/{athlete_id}/merge", { params: { path }, body: { other_id: other, name: typed } })),
  );
  const m = other > 0 ? seen.data : undefined;
  return (
    <form
      className="border-top pt-2 mb-3"
      aria-label={`Somebody who is ${name} too`}
      onSubmit={(e) => {
        e.preventDefault();
        merge.run(undefined, onClose);
      }}
    >
      <Form.Group controlId="merge-other">
        <Form.Label className="small mb-0">Written down twice: the same as</Form.Label>
        <Form.Select size="sm" value={other} onChange={(e) => setOther(Number(e.target.value))}>
          <option value={0}>choose …</option>
          {squads.data?.map((s) => (
            <optgroup key={s.id} label={s.name}>
              {s.athletes
                .filter((a) => a.id !== id)
                .map((a) => (
                  <option key={a.id} value={a.id}>
                    {a.name}
                  </option>
                ))}
            </optgroup>
          ))}
        </Form.Select>
      </Form.Group>
      {m && (
        <>
          <p className="small my-2">
            {name} takes over {counted(m.results, "result")}, {counted(m.sessions, "session")} and{" "}
            {counted(m.masses, "body mass", "body masses")}
            {m.takes_plan ? ", and the plan" : "; the plan stays as it is here"}. {m.name} is gone then. It cannot be undone but by a
            backup.
          </p>
          <Form.Group controlId="merge-name">
            <Form.Label className="small mb-0">Type “{m.name}” to go on</Form.Label>
            <Form.Control size="sm" value={typed} autoComplete="off" onChange={(e) => setTyped(e.target.value)} />
          </Form.Group>
        </>
      )}
      {seen.isLoadingError && other > 0 && <p className="clay small">{seen.error.message}</p>}
      {merge.problem && <Trouble problem={merge.problem} />}
      <div className="d-flex gap-2 mt-2">
        <Button type="submit" size="sm" disabled={!m || typed.trim() !== m.name || merge.isPending}>
          Merge
        </Button>
        <Button size="sm" variant="plain" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
