/** Where waiting writes are kept beyond the page: the browser's own database, a record a write. */
import { openDB, type DBSchema, type IDBPDatabase } from "idb";

import type { Refused, Shelf, Waiting } from "../logic/outbox";

interface Outbox extends DBSchema {
  waiting: { key: string; value: Waiting; indexes: { place: number } };
  refused: { key: string; value: Refused; indexes: { place: number } };
}

const NAME = "jarvok-outbox";

/** A shelf in IndexedDB. The connection is opened again where the browser has ended it, as when its storage is cleared. */
export function createShelf(): Shelf {
  let open: Promise<IDBPDatabase<Outbox>> | null = null;

  function connect(): Promise<IDBPDatabase<Outbox>> {
    open ??= openDB<Outbox>(NAME, 1, {
      upgrade(db) {
        for (const name of ["waiting", "refused"] as const) {
          db.createObjectStore(name, { keyPath: "key" }).createIndex("place", "place");
        }
      },
      blocking: (_current, _blocked, event) => {
        (event.target as IDBDatabase).close();
        open = null;
      },
      terminated: () => {
        open = null;
      },
    });
    return open;
  }

  /** Do something with the database; once more on a new connection where the first was gone. */
  async function within<T>(act: (db: IDBPDatabase<Outbox>) => Promise<T>): Promise<T> {
    try {
      return await act(await connect());
    } catch {
      open = null;
      return act(await connect());
    }
  }

  return {
    all: () => within((db) => db.getAllFromIndex("waiting", "place")),
    add: (item) =>
      within(async (db) => {
        const writing = db.transaction("waiting", "readwrite", { durability: "strict" });
        const last = await writing.store.index("place").openKeyCursor(null, "prev");
        const place = Math.max((last?.key ?? 0) + 1, item.place);
        await writing.store.put({ ...item, place });
        await writing.done;
        return place;
      }),
    put: (item) => within(async (db) => void (await db.put("waiting", item))),
    remove: (key) => within((db) => db.delete("waiting", key)),
    refused: () => within((db) => db.getAllFromIndex("refused", "place")),
    refuse: (item) => within(async (db) => void (await db.put("refused", item))),
    forget: (key) => within((db) => db.delete("refused", key)),
  };
}
