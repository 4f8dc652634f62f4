import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need } from "../../api/client";
import { Working } from "../../parts/Working";
import { AnswerForm } from "./AnswerForm";
import type { Person, Room } from "./useRoom";

const REASONS = ["looks tired", "asked for it", "hard week ahead", "looks fresh", "late", "my call"];

interface Props {
  room: Room;
  person: Person;
  act: (path: string, body: unknown) => Promise<unknown>;
}

/** One athlete on arriving: what they say, what it suggests and why, and the coach's word. */
export function PersonPanel({ room, person: p, act }: Props) {
  const [asking, setAsking] = useState(p.said === null);
  const [busy, setBusy] = useState(false);
  const [less, setLess] = useState(p.word?.less ?? "fewer");
  const [reason, setReason] = useState(p.word?.reason ?? "");
  const s = p.suggestion;
  const word = p.word?.plan;
  const say = (plan: string, why = reason, how = less) =>
    void act("word", { athlete_id: p.athlete_id, plan, less: how, reason: why }).catch(() => undefined);
  return (
    <aside className="sheet pad" aria-label={`Arrival of ${p.name}`}>
      <h2>{p.name}</h2>
      {p.said && !asking && (
        <>
          {s.referral && (
            <div className="note asks">
              <b>{s.referral}</b> {s.removed.length > 0 && `Left out today: ${s.removed.join(", ")}.`}
            </div>
          )}
          <div className="says advice mb-2">
            Plan {s.plan} suggested
            {s.points !== null && (
              <>
                :{" "}
                <Working data={s.working} label={`${s.points} of 100, show the working`}>
                  {s.points} of 100
                </Working>
              </>
            )}
            <div className="soft">{s.reasons.join(" · ")}</div>
          </div>
          <div className="d-flex gap-2" role="group" aria-label="Plan of the day">
            {room.plans.map((plan) => (
              <Button
                key={plan.key}
                variant={word === plan.key ? "primary" : "plain"}
                className="tap flex-fill"
                aria-pressed={word === plan.key}
                onClick={() => say(plan.key)}
              >
                <b className="fs-4">{plan.key}</b>
                <br />
                <span className="small">{plan.name}</span>
              </Button>
            ))}
          </div>
          {word === "B" && (
            <div className="d-flex flex-column gap-1 mt-2" role="group" aria-label="How it is less">
              {room.less.map((way) => (
                <Button
                  key={way.key}
                  variant={less === way.key ? "primary" : "plain"}
                  className="tap text-start"
                  aria-pressed={less === way.key}
                  onClick={() => {
                    setLess(way.key);
                    say("B", reason, way.key);
                  }}
                >
                  {way.name}
                </Button>
              ))}
            </div>
          )}
          {word && (
            <div className="d-flex flex-wrap gap-1 mt-2" role="group" aria-label="Why">
              {REASONS.map((why) => (
                <Button
                  key={why}
                  variant={reason === why ? "primary" : "plain"}
                  className="tap px-2"
                  aria-pressed={reason === why}
                  onClick={() => {
                    setReason(why);
                    say(word, why);
                  }}
                >
                  {why}
                </Button>
              ))}
            </div>
          )}
          <p className="soft small mt-2 mb-2">Only today changes. The plan stays as it is.</p>
          <Button variant="plain" className="tap" onClick={() => setAsking(true)}>
            Answer again
          </Button>
        </>
      )}
      {asking && (
        <AnswerForm
          questions={room.questions}
          areas={room.areas}
          said={p.said}
          openPain={p.open_pain}
          label="Save answers"
          busy={busy}
          onSay={(answers) => {
            setBusy(true);
            act(`answers/${p.athlete_id}`, answers)
              .then(() => setAsking(false))
              .catch(() => undefined)
              .finally(() => setBusy(false));
          }}
        />
      )}
      <PhoneLink room={room.id} athlete={p.athlete_id} />
    </aside>
  );
}

/** A link by which an athlete answers on their own phone. */
function PhoneLink({ room, athlete }: { room: number; athlete: number }) {
  const [link, setLink] = useState("");
  const makeLink = () =>
    void need(api.POST("/api/room/{room_id}/ready-link/{athlete_id}", { params: { path: { room_id: room, athlete_id: athlete } } })).then(
      (made) => setLink(`${window.location.origin}${made.path}`),
    );
  return (
    <div className="mt-2">
      {link ? (
        <p className="small m-0" role="status">
          Link for their phone, works for four hours:{" "}
          <a href={link} className="text-break">
            {link}
          </a>
        </p>
      ) : (
        <Button variant="link" className="tap p-0" onClick={makeLink}>
          Link for their phone
        </Button>
      )}
    </div>
  );
}
