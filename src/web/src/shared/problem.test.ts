import { describe, expect, it } from "vitest";
import { answerOf, Problem } from "./problem";

const response = (status: number) => new Response(null, { status });
const caught = (call: Promise<unknown>) => call.then(() => null).catch((error: unknown) => error as Problem);

describe("an answer of the server", () => {
  it("is its data when the server agreed", async () => {
    await expect(answerOf(Promise.resolve({ data: 7, response: response(200) }))).resolves.toBe(7);
  });

  it("is a problem with its code and the message of each field", async () => {
    const problem = await caught(
      answerOf(
        Promise.resolve({
          error: { code: "invalid", detail: "Two things", errors: { name: ["Enter it.", "Really."], phone: ["No."] } },
          response: response(400),
        }),
      ),
    );
    expect(problem).toBeInstanceOf(Problem);
    expect([problem!.status, problem!.code, problem!.message]).toEqual([400, "invalid", "Two things"]);
    expect(problem!.errors).toEqual({ name: "Enter it.", phone: "No." });
  });

  it("puts a single message at its field", async () => {
    const problem = await caught(
      answerOf(Promise.resolve({ error: { code: "x", detail: "Not so.", field: "start" }, response: response(409) })),
    );
    expect(problem!.errors).toEqual({ start: "Not so." });
  });

  it("says that nothing was lost when there is no connection", async () => {
    const problem = await caught(answerOf(Promise.reject(new TypeError("gone"))));
    expect([problem!.status, problem!.code]).toEqual([0, "offline"]);
  });

  it("still speaks when the answer is no problem document", async () => {
    const problem = await caught(answerOf(Promise.resolve({ error: "<html>", response: response(502) })));
    expect([problem!.status, problem!.code]).toEqual([502, "failed"]);
    expect(problem!.message).toContain("Nothing was changed");
  });
});
