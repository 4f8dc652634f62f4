import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { firstProblem, useAction } from "../../api/useAction";
import { dayYear, moment } from "../../parts/dates";
import { Needs } from "../../parts/Needs";
import { Failed, Loading, Trouble } from "../../parts/states";
import { SettingsTabs } from "../settings/SettingsTabs";
import { Pruning } from "./Pruning";
import { Tables } from "./Tables";
import { WholeCentre } from "./WholeCentre";

/** What goes out of the centre, and its backups. */
export default function DataScreen() {
  return (
    <div className="page" style={{ maxWidth: 980 }}>
      <h1>Data</h1>
      <SettingsTabs />
      <Needs may="centre">
        <Backups />
      </Needs>
      <Tables />
      <Needs may="centre">
        <WholeCentre />
        <Pruning />
      </Needs>
    </div>
  );
}

/** Copies of the centre: made, looked into, put back. */
function Backups() {
  const client = useQueryClient();
  const found = useQuery({ queryKey: keys.backups, queryFn: () => need(api.GET("/api/backups")) });
  const [looked, setLooked] = useState<string | null>(null);
  const told = { after: (_: unknown, fresh: Schemas["BackupsOut"]) => client.setQueryData(keys.backups, fresh) };
  const make = useAction(() => need(api.POST("/api/backups")), told);
  if (found.isPending) return <Loading what="the copies" />;
  if (found.isLoadingError) return <Failed error={found.error} again={() => void found.refetch()} />;
  const b = found.data;
  return (
    <>
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h2>Backups</h2>
          <p className="soft m-0">
            {b.daily ? "One backup a day: the last seven days, four weeks and twelve months are kept." : "The demo makes no daily backup."}
          </p>
        </div>
        <Button className="ms-auto" disabled={make.isPending} onClick={() => make.run(undefined)}>
          {make.isPending ? "Backing up …" : "Back up now"}
        </Button>
      </div>
      {make.problem && <Trouble problem={make.problem} />}
      {b.problem && (
        <div className="trouble mb-2" role="alert">
          <b>No backup was made today.</b> {b.problem}
        </div>
      )}
      <Folder key={b.chosen} backups={b} onSet={told.after} />
      {b.backups.length === 0 ? (
        <p className="soft">No backup yet.</p>
      ) : (
        <div className="sheet mb-3">
          <table className="board">
            <thead>
              <tr>
                <th>Made</th>
                <th>Why</th>
                <th className="right">MB</th>
                <th>
                  <span className="visually-hidden">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {b.backups.map((x) => (
                <BackupRow key={x.name} backup={x} isOpen={looked === x.name} onOpen={() => setLooked(looked === x.name ? null : x.name)} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}

function BackupRow({ backup: x, isOpen, onOpen }: { backup: Schemas["BackupOut"]; isOpen: boolean; onOpen: () => void }) {
  return (
    <>
      <tr>
        <td className="nowrap">{moment(x.at)}</td>
        <td>{x.words}</td>
        <td className="right num">{x.size_mb}</td>
        <td className="right">
          <a
            className="btn btn-plain btn-sm me-1"
            href={`/api/export/backups/${x.name}`}
            aria-label={`Download the backup of ${moment(x.at)}`}
          >
            Download
          </a>
          <Button
            size="sm"
            variant="plain"
            aria-expanded={isOpen}
            aria-label={isOpen ? undefined : `Restore … the backup of ${moment(x.at)}`}
            onClick={onOpen}
          >
            {isOpen ? "Cancel" : "Restore …"}
          </Button>
        </td>
      </tr>
      {isOpen && (
        <tr>
          <td colSpan={4}>
            <Restore name={x.name} />
          </td>
        </tr>
      )}
    </>
  );
}

/** What a backup holds, and the step back to it. */
function Restore({ name }: { name: string }) {
  const inside = useQuery({
    queryKey: keys.backup(name),
    queryFn: () => need(api.GET("/api/backups/{name}", { params: { path: { name } } })),
  });
  const back = useAction(() => need(api.POST("/api/backups/{name}/restore", { params: { path: { name } } })), {
    after: () => window.location.assign("/"), // everybody signs in again
  });
  if (inside.isPending) return <Loading what="the backup" />;
  if (inside.isLoadingError) return <Failed error={inside.error} again={() => void inside.refetch()} />;
  const i = inside.data;
  if (i.problem) {
    return (
      <p className="m-0 clay" role="status">
        This backup cannot be restored. {i.problem}
      </p>
    );
  }
  return (
    <div>
      <p className="mb-2">
        The backup is whole. It holds {i.athletes} {i.athletes === 1 ? "athlete" : "athletes"} and {i.sets} sets
        {i.newest && `, the last session on ${dayYear(i.newest)}`}. Everything since then goes; the centre as it is now is backed up first.
        Everybody signs in again.
      </p>
      {back.problem && <Trouble problem={back.problem} />}
      <Button disabled={back.isPending} onClick={() => back.run(undefined)}>
        {back.isPending ? "Restoring …" : "Restore this backup"}
      </Button>
    </div>
  );
}

interface FolderProps {
  backups: Schemas["BackupsOut"];
  onSet: (client: unknown, fresh: Schemas["BackupsOut"]) => void;
}

function Folder({ backups: b, onSet }: FolderProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const set = useAction((folder: string) => need(api.PUT("/api/backups/folder", { body: { folder } })), { after: onSet });
  const problem = firstProblem(set);
  return (
    <form
      className="d-flex flex-wrap gap-2 align-items-center mb-2"
      aria-label="Folder for backups"
      onSubmit={(e) => {
        e.preventDefault();
        if (typed !== null) set.run(typed);
      }}
    >
      <span className="soft">Kept in</span>
      {typed === null ? (
        <>
          <code>{b.folder}</code>
          <Button size="sm" variant="link" className="p-0" onClick={() => setTyped(b.chosen)}>
            Another folder …
          </Button>
          <span className="soft small">A folder on another machine or disk is safer.</span>
        </>
      ) : (
        <>
          <input
            className="form-control form-control-sm"
            style={{ width: 340 }}
            aria-label="Folder for backups"
            placeholder="nothing: beside the data"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <Button size="sm" type="submit" disabled={set.isPending}>
            Save
          </Button>
          <Button size="sm" variant="link" onClick={() => setTyped(null)}>
            Cancel
          </Button>
        </>
      )}
      {problem && <Trouble problem={problem} />}
    </form>
  );
}
