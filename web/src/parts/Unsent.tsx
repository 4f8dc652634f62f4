import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import Dropdown from "react-bootstrap/Dropdown";

import { door } from "../api/door";
import { shell, takeNewer } from "../offline/shell";
import { oldest_ms, readOldAgain } from "../api/reading";
import { forget, resend, sendAs, setAside, standing, watchOutbox, type Refused, type Standing } from "../api/outbox";
import { moment } from "./dates";

const SAID_FOR_MS = 4000;

function useStanding(): Standing {
  return useSyncExternalStore(watchOutbox, standing);
}

/** Whether the last of what waited has just gone. */
function useJustSent(waiting: number): boolean {
  const [said, setSaid] = useState(false);
  const [had, setHad] = useState(waiting > 0);
  if (waiting > 0 !== had) {
    setHad(waiting > 0);
    setSaid(waiting === 0);
  }
  useEffect(() => {
    if (!said) return;
    const timer = setTimeout(() => setSaid(false), SAID_FOR_MS);
    return () => clearTimeout(timer);
  }, [said]);
  return said;
}

/** What of this device has not reached the server yet, why, and what a person can do about it. */
export function Unsent() {
  const stands = useStanding();
  const { keptAt_ms } = useSyncExternalStore(shell.watch, shell.state);
  const sent = useJustSent(stands.waiting);
  return (
    <>
      {(stands.waiting > 0 || sent) && (
        <span className={stands.waiting > 0 ? "clay fw-semibold" : "soft"} role="status">
          {stands.waiting > 0 ? waitingWords(stands, keptAt_ms !== null) : "All sent"}
        </span>
      )}
      {stands.waiting > 0 && stands.asks !== null && <Asks asks={stands.asks} />}
      {stands.refused.length > 0 && <NotTaken refused={stands.refused} />}
    </>
  );
}

/** Whether what is shown comes from this device, and since when; and that a newer version of the pages is here. */
export function FromDevice() {
  const { keptAt_ms, isNewer } = useSyncExternalStore(shell.watch, shell.state);
  return (
    <>
      {keptAt_ms !== null && (
        <span className="clay" role="status">
          Offline, as it stood {moment(new Date(keptAt_ms).toISOString())}
        </span>
      )}
      {keptAt_ms === null && <NotReadAgain />}
      {isNewer && (
        <button type="button" className="btn btn-plain btn-sm tap" onClick={takeNewer}>
          Load the new version
        </button>
      )}
    </>
  );
}

/** That some of what is shown could not be read again, and since when it stands. */
function NotReadAgain() {
  const client = useQueryClient();
  const since_ms = useSyncExternalStore(
    (tell) => client.getQueryCache().subscribe(tell),
    () => oldest_ms(client),
  );
  if (since_ms === null) return null;
  return (
    <>
      <span className="clay" role="status">
        Could not be read again, as it stood {moment(new Date(since_ms).toISOString())}
      </span>
      <button type="button" className="btn btn-plain btn-sm tap" onClick={() => void readOldAgain(client)}>
        Read again
      </button>
    </>
  );
}

function waitingWords({ waiting, away, asks, unsafe }: Standing, isSaid: boolean): string {
  const keep = unsafe ? " The browser keeps nothing: leave this page open until they are sent." : "";
  if (asks !== null && "of" in asks) return `${waiting} typed by ${asks.of.name || "somebody else"} on this device.${keep}`;
  return `${away && !isSaid ? "Offline · " : ""}${waiting} waiting to be sent.${keep}`;
}

/** What a person can do about what waits: sign in, set the first aside, send what somebody else typed. */
function Asks({ asks }: { asks: NonNullable<Standing["asks"]> }) {
  if ("of" in asks) {
    return (
      <button type="button" className="btn btn-plain btn-sm tap" onClick={() => void sendAs(asks.of)}>
        Send as me
      </button>
    );
  }
  return (
    <>
      <span className="clay small">{asks.door}</span>
      <button type="button" className="btn btn-plain btn-sm tap" onClick={() => void door.ask()}>
        Sign in to send
      </button>
      <button type="button" className="btn btn-plain btn-sm tap" onClick={() => void setAside()}>
        Set it aside
      </button>
    </>
  );
}

/** What the server would not take, with its reason: sent again, sent in place of what is stored, or left. */
function NotTaken({ refused }: { refused: Refused[] }) {
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="plain" size="sm" id="refused">
        {refused.length} not taken
      </Dropdown.Toggle>
      <Dropdown.Menu className="p-3" style={{ width: 380, maxHeight: "70vh", overflowY: "auto" }}>
        {refused.map((r) => (
          <div key={r.key} className="mb-3">
            <b>{r.title}</b>
            <div className="small text-break">{words(r.body)}</div>
            <div className="d-flex flex-wrap gap-2 mt-1">
              {r.stored_id !== null && r.url.endsWith("/sets") ? (
                <button
                  type="button"
                  className="btn btn-plain btn-sm tap"
                  onClick={() => void resend(r, `${r.url}/correct`, { ...(r.body as object), seen_id: r.stored_id })}
                >
                  Send as a correction
                </button>
              ) : (
                <button type="button" className="btn btn-plain btn-sm tap" onClick={() => void resend(r)}>
                  Send again
                </button>
              )}
              <button type="button" className="btn btn-plain btn-sm tap" onClick={() => void forget(r.key)}>
                Delete
              </button>
            </div>
          </div>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}

/** What was typed, as far as it says something. */
function words(body: unknown): string {
  return Object.entries(body as Record<string, unknown>)
    .filter(([, v]) => v !== null && v !== "" && v !== false && !(typeof v === "object" && Object.keys(v).length === 0))
    .map(([k, v]) => `${k.replaceAll("_", " ")} ${typeof v === "string" ? v : JSON.stringify(v)}`)
    .join(", ");
}

/** Whether a live page hears of the server; where nothing is heard, what is typed waits on the device. */
export function Heard({ connected }: { connected: boolean }) {
  const { waiting, away } = useStanding();
  const offline = !connected || (away && waiting > 0);
  return (
    <span className="lab" role="status">
      {offline ? "Offline: sets wait here" : waiting > 0 ? "sending" : "connected"}
    </span>
  );
}
