/** Whoever is signed in, told to what sends for them. */
import { writeDays } from "../parts/dates";
import { keptFor } from "../offline/shell";
import { keepMe, type Schemas } from "./client";
import { door } from "./door";
import { keepAuthor } from "./outbox";

export function admit(me: Schemas["Me"]): void {
  keepMe(me);
  writeDays(me.day_order);
  keptFor(me.person_id === null ? "" : String(me.person_id));
  door.opened(me.signed_in);
  keepAuthor(me.person_id === null ? null : { id: `person ${me.person_id}`, name: me.name });
}
