import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { firstProblem, useAction } from "../../api/useAction";
import { Failed, Loading, Trouble } from "../../parts/states";
import { moment } from "../../parts/dates";
import { SettingsTabs } from "../settings/SettingsTabs";
import { OpenLinks } from "./OpenLinks";
import { PersonForm } from "./PersonForm";

type Person = Schemas["PersonOut"];
type People = Schemas["PeopleOut"];
const STATES: Record<string, string> = { invited: "has not come yet", active: "", ended: "account ended" };

/** Who works with the centre, what each may do, and the links that let them in. */
export default function PeopleScreen() {
  const client = useQueryClient();
  const people = useQuery({ queryKey: keys.people, queryFn: () => need(api.GET("/api/people")) });
  const [open, setOpen] = useState<number | null>(null);
  const [given, setGiven] = useState<Schemas["WelcomeLinkOut"] | null>(null);
  const told = (fresh: People) => client.setQueryData(keys.people, fresh);
  const again = async (link: Schemas["WelcomeLinkOut"]) => {
    setGiven(link);
    await client.invalidateQueries({ queryKey: keys.people });
    await client.invalidateQueries({ queryKey: keys.links });
  };
  const invite = useAction((body: Schemas["PersonIn"]) => need(api.POST("/api/people", { body })), { after: (_, link) => again(link) });
  const change = useAction(
    ({ id, body }: { id: number; body: Schemas["PersonIn"] }) =>
      need(api.PATCH("/api/people/{person_id}", { params: { path: { person_id: id } }, body })),
    { after: (_, fresh) => told(fresh) },
  );
  const link = useAction((id: number) => need(api.POST("/api/people/{person_id}/link", { params: { path: { person_id: id } } })), {
    after: (_, made) => again(made),
  });
  const end = useAction((id: number) => need(api.POST("/api/people/{person_id}/end", { params: { path: { person_id: id } } })), {
    after: (_, fresh) => told(fresh),
  });
  const back = useAction((id: number) => need(api.POST("/api/people/{person_id}/back", { params: { path: { person_id: id } } })), {
    after: (_, fresh) => told(fresh),
  });
  if (people.isPending) return <Loading what="the people" />;
  if (people.isLoadingError) return <Failed error={people.error} again={() => void people.refetch()} />;
  const all = people.data;
  const problem = firstProblem(link, end, back);
  return (
    <div className="page" style={{ maxWidth: 1080 }}>
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h1>People</h1>
          <p className="soft m-0">Who works here, and what each may do.</p>
        </div>
        <Button className="ms-auto" aria-expanded={open === 0} onClick={() => setOpen(open === 0 ? null : 0)}>
          {open === 0 ? "Cancel" : "Ask somebody in"}
        </Button>
      </div>
      <SettingsTabs />
      {problem && <Trouble problem={problem} />}
      {open === 0 && (
        <div className="sheet pad mb-3">
          <PersonForm
            all={all}
            label="Ask somebody in"
            button="Make the link"
            busy={invite.isPending}
            problem={invite.problem}
            onSave={(body) => invite.run(body, () => setOpen(null))}
          />
        </div>
      )}
      {given && <Given link={given} onClose={() => setGiven(null)} />}
      <div className="sheet mb-3">
        <table className="board">
          <thead>
            <tr>
              <th style={{ width: "24%" }}>Name</th>
              <th style={{ width: "16%" }}>Role</th>
              <th>Sees</th>
              <th>Last here</th>
              <th>
                <span className="visually-hidden">What can be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {all.people.map((p) => (
              <PersonRow
                key={p.id}
                person={p}
                isOpen={open === p.id}
                onOpen={() => setOpen(open === p.id ? null : p.id)}
                onLink={() => link.run(p.id)}
                onEnd={() => end.run(p.id)}
                onBack={() => back.run(p.id)}
              >
                <PersonForm
                  all={all}
                  person={p}
                  label={`Change ${p.name}`}
                  button="Save"
                  busy={change.isPending}
                  problem={change.problem}
                  onSave={(body) => change.run({ id: p.id, body }, () => setOpen(null))}
                />
              </PersonRow>
            ))}
          </tbody>
        </table>
      </div>
      <OpenLinks />
    </div>
  );
}

interface RowProps {
  person: Person;
  isOpen: boolean;
  onOpen: () => void;
  onLink: () => void;
  onEnd: () => void;
  onBack: () => void;
  children: React.ReactNode;
}

function PersonRow({ person: p, isOpen, onOpen, onLink, onEnd, onBack, children }: RowProps) {
  const ended = p.state === "ended";
  return (
    <>
      <tr>
        <td>
          <b className={ended ? "soft" : undefined}>{p.name}</b>
          {p.is_me && <span className="soft"> (you)</span>}
          <div className="soft small">{[p.sign_in && `signs in as ${p.sign_in}`, STATES[p.state]].filter(Boolean).join(" · ")}</div>
        </td>
        <td>{p.role_name}</td>
        <td>
          {p.squad_words}
          {p.may_log && <span className="soft"> · logs their own sets</span>}
        </td>
        <td className="nowrap">
          {p.seen_at ? moment(p.seen_at) : "–"}
          {p.link_until && <div className="soft small">link until {moment(p.link_until)}</div>}
        </td>
        <td className="right">
          <div className="d-flex flex-wrap gap-1 justify-content-end">
            {ended ? (
              <Button size="sm" variant="plain" aria-label={`Bring back ${p.name}`} onClick={onBack}>
                Bring back
              </Button>
            ) : (
              <>
                <Button
                  size="sm"
                  variant="plain"
                  aria-expanded={isOpen}
                  aria-label={isOpen ? `Close ${p.name}` : `Change ${p.name}`}
                  onClick={onOpen}
                >
                  {isOpen ? "Close" : "Change"}
                </Button>
                <Button
                  size="sm"
                  variant="plain"
                  aria-label={p.state === "invited" ? `New link for ${p.name}` : `Forgotten password of ${p.name}`}
                  onClick={onLink}
                >
                  {p.state === "invited" ? "New link" : "Forgotten password"}
                </Button>
                {!p.is_me && (
                  <Button size="sm" variant="plain" aria-label={`End the account of ${p.name}`} onClick={onEnd}>
                    End
                  </Button>
                )}
              </>
            )}
          </div>
        </td>
      </tr>
      {isOpen && (
        <tr>
          <td colSpan={5}>{children}</td>
        </tr>
      )}
    </>
  );
}

/** A link that was just made: it is shown this once. */
function Given({ link, onClose }: { link: Schemas["WelcomeLinkOut"]; onClose: () => void }) {
  const [copied, setCopied] = useState(false);
  const address = `${window.location.origin}${link.path}`;
  return (
    <div className="sheet pad mb-3" role="status">
      <p className="mb-2">
        <b>The link for {link.name}</b>, good for {link.hours} hours and once. Send it to nobody else; it is not shown again.
      </p>
      <div className="d-flex flex-wrap gap-2">
        <input
          className="form-control"
          style={{ flex: "1 1 320px" }}
          readOnly
          aria-label={`Link for ${link.name}`}
          value={address}
          onFocus={(e) => e.target.select()}
        />
        <Button variant="plain" onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>
          {copied ? "Copied" : "Copy"}
        </Button>
        <Button variant="plain" onClick={onClose}>
          Close
        </Button>
      </div>
    </div>
  );
}
