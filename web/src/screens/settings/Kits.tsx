import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Schemas } from "../../api/client";
import { KitForm } from "./KitForm";

type Settings = Schemas["SettingsOut"];

/** What rooms hold: bars, plates, what pulls. */
export function Kits({ settings }: { settings: Settings }) {
  const [open, setOpen] = useState<number | null>(null);
  return (
    <section className="sheet pad">
      <h2>Kits</h2>
      <p className="soft small">
        What a room holds decides which loads can be built. An athlete without a kit trains in a fully equipped room: a{" "}
        {settings.usual_kit.bar} {settings.usual_kit.unit} bar and plates down to {settings.usual_kit.plates.at(-1)?.mass}{" "}
        {settings.usual_kit.unit}.
      </p>
      {settings.kits.map((kit) => (
        <div key={kit.id} className="border-top py-2">
          <div className="d-flex">
            <span className="fw-semibold">{kit.name}</span>
            <Button
              size="sm"
              variant="link"
              className="ms-auto p-0"
              aria-expanded={open === kit.id}
              onClick={() => setOpen(open === kit.id ? null : kit.id)}
            >
              {open === kit.id ? "Close" : `Change ${kit.name}`}
            </Button>
          </div>
          <div className="soft small">
            bar {kit.bar} {kit.unit} · pairs {kit.plates.map((p) => `${p.mass}×${p.pairs}`).join(", ")} · {kit.has.join(", ")}
            {kit.attachments.map((a) => (
              <div key={`${a.name}${a.at}`}>
                {a.name}
                {a.at && `, ${a.at}`}: {a.kind} {a.bottom} to {a.top} {kit.unit}
              </div>
            ))}
          </div>
          {open === kit.id && <KitForm kit={kit} settings={settings} onDone={() => setOpen(null)} />}
        </div>
      ))}
      {open === 0 ? (
        <KitForm kit={{ ...settings.usual_kit, name: "" }} settings={settings} onDone={() => setOpen(null)} />
      ) : (
        <Button size="sm" variant="plain" className="mt-2" onClick={() => setOpen(0)}>
          Add a kit
        </Button>
      )}
    </section>
  );
}
