import { useId, useRef, useState } from "react";
import Overlay from "react-bootstrap/Overlay";
import Popover from "react-bootstrap/Popover";

import type { WorkingData } from "../api/hooks";

const MARKS: Record<string, string> = {
  P: "published",
  C: "common practice",
  M: "from memory, a default",
  J: "Jarvok's own choice",
  fact: "measured",
};

/** A computed number with a dotted underline; opening it shows how it came about. */
export function Working({ data, children, label }: { data: WorkingData | null; children: React.ReactNode; label?: string }) {
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const id = useId();
  if (data === null) return <>{children}</>;
  return (
    <>
      <button
        ref={button}
        type="button"
        className="working"
        aria-expanded={open}
        aria-describedby={open ? id : undefined}
        aria-label={label}
        onClick={() => setOpen(!open)}
        onKeyDown={(e) => {
          if (e.key === "?") setOpen(true);
          if (e.key === "Escape") setOpen(false);
        }}
      >
        {children}
      </button>
      <Overlay
        transition={false}
        container={() => document.getElementById("main")}
        target={button}
        show={open}
        placement="right"
        flip
        offset={[0, 10]}
        rootClose
        onHide={() => setOpen(false)}
      >
        {(props) => (
          <Popover {...props} id={id} className="working-panel">
            <Popover.Body>
              <h2>{data.result} · why</h2>
              <Rows data={data} />
            </Popover.Body>
          </Popover>
        )}
      </Overlay>
    </>
  );
}

function Rows({ data }: { data: WorkingData }) {
  const mark = MARKS[data.source_mark] ?? data.source_mark;
  return (
    <dl>
      {data.inputs.map((input, i) => (
        <Row key={i} name={input.name} text={input.text} />
      ))}
      <Row name="rule" text={data.rule} />
      <Row name="source" text={data.source === mark ? mark : `${data.source} (${mark})`} />
      {data.rounding && <Row name="rounded" text={data.rounding} />}
      {data.others.map((other, i) => (
        <Row key={i} name={other.name} text={other.text} />
      ))}
      {data.missing.map((text, i) => (
        <Row key={i} name="missing" text={text} />
      ))}
      {data.caution && <Row name="bear in mind" text={data.caution} />}
    </dl>
  );
}

function Row({ name, text }: { name: string; text: string }) {
  return (
    <>
      <dt>{name}</dt>
      <dd>{text}</dd>
    </>
  );
}
