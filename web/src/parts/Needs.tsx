import type { ReactNode } from "react";

import { useMay } from "../api/hooks";

/** What only some roles do: shown to them alone. The server refuses it to the others anyway. */
export function Needs({ may: need, children }: { may: string; children: ReactNode }) {
  return useMay()(need) ? children : null;
}
