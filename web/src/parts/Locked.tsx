import type { ReactNode } from "react";

import { useMay } from "../api/hooks";

/** What everybody here reads and only some roles change: to the others its fields stand still. */
export function Locked({ may: need, children }: { may: string; children: ReactNode }) {
  return (
    <fieldset disabled={!useMay()(need)} className="m-0 p-0 border-0" style={{ minWidth: 0 }}>
      {children}
    </fieldset>
  );
}
