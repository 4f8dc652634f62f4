import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, type Schemas } from "../../api/client";
import { useAction } from "../../api/useAction";
import { dayYear } from "../../parts/dates";
import { Needs } from "../../parts/Needs";
import { Trouble } from "../../parts/states";

/** A calendar as a file, or under a secret address that another calendar follows. */
export function CalendarOut({ whose, id }: { whose: "athlete" | "squad"; id: number }) {
  const [made, setMade] = useState<Schemas["FeedOut"] | null>(null);
  const [copied, setCopied] = useState(false);
  const make = useAction(() => need(api.POST("/api/calendar/{whose}/{pk}/address", { params: { path: { whose, pk: id } } })), {
    after: () => undefined,
  });
  const address = made ? window.location.origin + made.path : "";
  return (
    <section className="sheet pad mt-3" aria-label="Calendar out">
      <h2>Calendar out</h2>
      <p className="soft small">
        Competitions, entries, weekly practice and the sessions of four weeks, as iCalendar. A file is as it stands today; an address is
        followed by a phone or a calendar program, with every change.
      </p>
      <div className="d-flex flex-wrap gap-2 align-items-center">
        <a className="btn btn-plain btn-sm" href={`/api/export/${whose}s/${id}/calendar.ics`}>
          Save as .ics
        </a>
        <Needs may="plan">
          <Button size="sm" variant="plain" disabled={make.isPending} onClick={() => make.run(undefined, setMade)}>
            Make an address
          </Button>
        </Needs>
      </div>
      {make.problem && <Trouble problem={make.problem} />}
      {made && (
        <div className="says mt-2" role="status">
          <p className="mb-1">
            Shown only now. Whoever has it sees this calendar, nothing of health, until {dayYear(made.until.slice(0, 10))} or until it is
            ended under Settings, People.
          </p>
          <div className="d-flex gap-2">
            <input
              className="form-control form-control-sm"
              readOnly
              aria-label="Address of the calendar"
              value={address}
              onFocus={(e) => e.target.select()}
            />
            <Button
              size="sm"
              variant="plain"
              onClick={() => {
                void navigator.clipboard?.writeText(address).then(() => setCopied(true));
              }}
            >
              {copied ? "Copied" : "Copy"}
            </Button>
          </div>
        </div>
      )}
    </section>
  );
}
