import { describe, expect, it } from "vitest";
import { chosenHere } from "./chosenHere";

describe("a choice kept in the browser", () => {
  it("is the usual until somebody chooses, and what was chosen from then on", () => {
    const choice = chosenHere<"a" | "b">("kingcup-test", "a", ["a", "b"]);
    expect(choice.get()).toBe("a");
    choice.set("b");
    expect(choice.get()).toBe("b");
  });
});
