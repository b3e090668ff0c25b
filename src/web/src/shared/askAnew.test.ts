import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { describe, expect, it } from "vitest";
import { askAnew } from "./askAnew";

const key = ["starts", "here"];

/** A question whose answers are given by hand. */
function asked() {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const waiting: ((answer: string) => void)[] = [];
  const queryFn = () => new Promise<string>((resolve) => waiting.push(resolve));
  return { queries, waiting, options: { queryKey: key, queryFn, staleTime: Infinity } };
}

describe("what has changed is asked anew", () => {
  it("whoever shows it gets no first answer that was read before the change", async () => {
    const { queries, waiting, options } = asked();
    const shown: (string | undefined)[] = [];
    const leave = new QueryObserver(queries, options).subscribe(({ data }) => shown.push(data));
    const told = askAnew(queries, { queryKey: ["starts"] });
    expect(waiting).toHaveLength(2);
    waiting[1]!("after");
    waiting[0]!("before");
    await told;
    expect(queries.getQueryData(key)).toBe("after");
    expect(shown).not.toContain("before");
    leave();
  });

  it("whoever waits for an answer that nobody shows is handed the new one", async () => {
    const { queries, waiting, options } = asked();
    const ahead = queries.fetchQuery(options);
    void askAnew(queries, { queryKey: ["starts"] });
    waiting[0]!("before");
    waiting[1]!("after");
    await expect(ahead).resolves.toBe("after");
    expect(queries.getQueryState(key)?.isInvalidated).toBe(false);
  });

  it("what is known and shown is asked once more, and stays until then", async () => {
    const { queries, waiting, options } = asked();
    const leave = new QueryObserver(queries, options).subscribe(() => undefined);
    waiting[0]!("first");
    await expect.poll(() => queries.getQueryData(key)).toBe("first");
    const told = askAnew(queries, { queryKey: ["starts"] });
    expect(queries.getQueryData(key)).toBe("first");
    expect(waiting).toHaveLength(2);
    waiting[1]!("second");
    await told;
    expect(queries.getQueryData(key)).toBe("second");
    leave();
  });

  it("what is only kept is asked when it is shown again, and others not at all", async () => {
    const { queries, waiting } = asked();
    queries.setQueryData(key, "kept");
    queries.setQueryData(["client"], "another");
    await askAnew(queries, { queryKey: ["starts"] });
    expect(waiting).toHaveLength(0);
    expect(queries.getQueryState(key)?.isInvalidated).toBe(true);
    expect(queries.getQueryState(["client"])?.isInvalidated).toBe(false);
  });
});
