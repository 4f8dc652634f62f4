import { useEffect, useRef, useState } from "react";

import { problemOf, ProblemError, type Problem } from "../api/client";
import { Trouble } from "./states";

interface Props {
  href: string;
  /** What the button is called where its words alone are not enough; it begins with them. */
  label?: string;
  children: React.ReactNode;
}

/** Fetches a file, shows how much has come, and can be stopped. What is wrong with it is said beside the button. */
export function Download({ href, label, children }: Props) {
  const [got, setGot] = useState<number | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);

  async function fetchIt() {
    const control = new AbortController();
    stop.current = control;
    setProblem(null);
    setGot(0);
    try {
      const { file, name } = await receive(href, control.signal, setGot);
      save(file, name);
    } catch (e) {
      if (!control.signal.aborted) setProblem(problemOf(e));
    } finally {
      if (!control.signal.aborted) setGot(null);
    }
  }

  if (got !== null) {
    return (
      <span role="status" className="d-inline-flex align-items-center gap-2">
        <span className="small">{got === 0 ? "Being written …" : `${size(got)} here …`}</span>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          onClick={() => {
            stop.current?.abort();
            setGot(null);
          }}
        >
          Cancel
        </button>
      </span>
    );
  }
  return (
    <>
      <button type="button" className="btn btn-plain btn-sm" aria-label={label} onClick={() => void fetchIt()}>
        {children}
      </button>
      {problem && <Trouble problem={problem} />}
    </>
  );
}

function size(bytes: number): string {
  return bytes < 1_000_000 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
}

async function receive(href: string, signal: AbortSignal, onGot: (bytes: number) => void): Promise<{ file: Blob; name: string }> {
  const answer = await fetch(href, { signal, credentials: "same-origin" });
  if (!answer.ok || !answer.body) throw new ProblemError((await answer.json()) as Problem);
  const reader = answer.body.getReader();
  const parts: BlobPart[] = [];
  let bytes = 0;
  for (let read = await reader.read(); !read.done; read = await reader.read()) {
    parts.push(read.value);
    bytes += read.value.length;
    onGot(bytes);
  }
  const name = /filename="([^"]+)"/.exec(answer.headers.get("Content-Disposition") ?? "")?.[1];
  return { file: new Blob(parts, { type: answer.headers.get("Content-Type") ?? "" }), name: name ?? "file" };
}

function save(file: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
