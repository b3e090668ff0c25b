import { describe, expect, it, vi } from "vitest";
import { othersIn, presence } from "./presence";

const nell = { key: "1", staffId: "n", name: "Nell", visitId: "v" };

describe("who has a visit open", () => {
  it("is told to whoever comes, once, and forgotten when not heard of", () => {
    const told = vi.fn();
    presence.connect(told);
    presence.open("v");
    expect(told).toHaveBeenLastCalledWith("v");
    told.mockClear();
    presence.hear(nell, 1000);
    expect(told).toHaveBeenCalledOnce();
    presence.hear(nell, 16_000);
    expect(told).toHaveBeenCalledOnce();
    expect(presence.heard().map((one) => one.name)).toEqual(["Nell"]);
    presence.forget(55_000);
    expect(presence.heard()).toHaveLength(1);
    presence.forget(56_000);
    expect(presence.heard()).toEqual([]);
    presence.open(null);
  });

  it("is told by name, one's own other screens left out, and two of one name are two", () => {
    const at = { at: 0 };
    const namesake = { ...nell, ...at, key: "2", staffId: "m" };
    expect(othersIn([nell, { ...nell, key: "3" }, namesake], "v", "self")).toEqual(["Nell", "Nell"]);
    expect(othersIn([nell, namesake], "v", "n")).toEqual(["Nell"]);
    expect(othersIn([nell], "other", "self")).toEqual([]);
  });

  it("is not answered where something else is open", () => {
    const told = vi.fn();
    presence.connect(told);
    presence.open("other");
    told.mockClear();
    presence.hear(nell, 1000);
    expect(told).not.toHaveBeenCalled();
    presence.hear({ ...nell, visitId: null }, 2000);
    expect(presence.heard().filter((one) => one.visitId !== null)).toEqual([]);
    presence.open(null);
  });
});
