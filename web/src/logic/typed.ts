/** What was typed and is on its way to the server: kept in the browser until it has arrived, so that a page loaded anew sends it again. */
export interface Typed<T> {
  /** makes twice harmless */
  key: string;
  entry: T;
}

type Kept = Pick<Storage, "getItem" | "setItem" | "removeItem">;

export class TypedList<T> {
  constructor(
    private readonly name: string,
    private readonly storage: Kept,
  ) {}

  /** In the order typed; nothing where the browser keeps nothing, or something else. */
  all(): Typed<T>[] {
    try {
      const found: unknown = JSON.parse(this.storage.getItem(this.name) ?? "[]");
      return Array.isArray(found) ? (found as Typed<T>[]) : [];
    } catch {
      return [];
    }
  }

  add(item: Typed<T>): void {
    this.write([...this.all(), item]);
  }

  remove(key: string): void {
    this.write(this.all().filter((x) => x.key !== key));
  }

  private write(items: Typed<T>[]): void {
    try {
      if (items.length > 0) this.storage.setItem(this.name, JSON.stringify(items));
      else this.storage.removeItem(this.name);
    } catch {
      // a browser that keeps nothing has the page alone
    }
  }
}
