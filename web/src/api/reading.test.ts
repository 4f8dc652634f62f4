import { type QueryClient, QueryObserver } from "@tanstack/react-query";
import { afterEach, beforeEach, expect, it } from "vitest";

import { ProblemError } from "./problem";
import { oldest_ms, reader, readOldAgain } from "./reading";

let client: QueryClient;
let stop: () => void;
let answer: () => Promise<string>;

beforeEach(() => (client = reader()));
afterEach(() => stop());

const refused = (status: number) =>
  new ProblemError({
    title: "No",
    status,
    where: "",
    accepted: "",
    position: null,
    suggestion: "",
    stored_id: null,
    stored: "",
    newest: null,
  });

async function open(): Promise<QueryObserver<string>> {
  const page = new QueryObserver<string>(client, { queryKey: ["page"], queryFn: () => answer(), retry: false });
  stop = page.subscribe(() => undefined);
  await expect.poll(() => page.getCurrentResult().isFetching).toBe(false);
  return page;
}

async function readAgain(page: QueryObserver<string>, error: Error) {
  answer = () => Promise.reject(error);
  await page.refetch();
  return page.getCurrentResult();
}

it.each([0, 401, 429, 500, 503])("what was read stays where reading it again ends with %i", async (status) => {
  answer = () => Promise.resolve("read");
  const page = await open();
  const now = await readAgain(page, status === 0 ? new TypeError("no network") : refused(status));
  expect(now).toMatchObject({ data: "read", isLoadingError: false });
  expect(oldest_ms(client)).toBe(now.dataUpdatedAt);
  answer = () => Promise.resolve("read again");
  await readOldAgain(client);
  expect(page.getCurrentResult().data).toBe("read again");
  expect(oldest_ms(client)).toBeNull();
});

it.each([403, 404, 409, 422])("what may not be seen any more is taken away: %i", async (status) => {
  answer = () => Promise.resolve("read");
  const page = await open();
  const now = await readAgain(page, refused(status));
  expect(now).toMatchObject({ data: undefined, isLoadingError: true });
  expect(oldest_ms(client)).toBeNull();
});

it("what was never read says why", async () => {
  answer = () => Promise.reject(refused(500));
  const page = await open();
  expect(page.getCurrentResult()).toMatchObject({ data: undefined, isLoadingError: true });
  expect(oldest_ms(client)).toBeNull();
});
