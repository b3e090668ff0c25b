import { describe, expect, it } from "vitest";
import { addressOf, filterOf, groupsOf, nextOf, sheetsOf, type AgendaRow } from "./agenda";

const row = (date: string, who: string, next: AgendaRow["next"] = []) =>
  ({ id: date + who, date, practitioners: [{ id: who, name: who }], next }) as unknown as AgendaRow;

describe("the agenda", () => {
  it("keeps its filter in the address", () => {
    const filter = {
      until: "2027-03-09",
      resourceId: ["a", "b"],
      categoryId: ["c"],
      state: ["done" as const],
      source: "Online",
      grouping: "practitioner" as const,
    };
    expect(filterOf("2027-03-02", addressOf("2027-03-02", filter))).toEqual(filter);
  });
  it("is of one day where nothing, or nothing sensible, is said", () => {
    expect(addressOf("2027-03-02", filterOf("2027-03-02", new URLSearchParams())).toString()).toBe("");
    expect(filterOf("2027-03-02", new URLSearchParams("until=2027-03-01&source=x")).until).toBe("2027-03-02");
  });
  it("groups by day in order, or by who treats by name", () => {
    const rows = [row("2027-03-02", "Tobias"), row("2027-03-02", "Ines"), row("2027-03-03", "Tobias")];
    expect(groupsOf(rows, "time").map((group) => [group.key, group.rows.length])).toEqual([
      ["2027-03-02", 2],
      ["2027-03-03", 1],
    ]);
    expect(groupsOf(rows, "practitioner").map((group) => group.key)).toEqual(["Ines", "Tobias"]);
  });
  it("offers every state that any of the chosen may be given, but for cancelling, which wants a reason", () => {
    expect(nextOf([row("d", "a", ["arrived", "cancelled"]), row("d", "b", ["done", "arrived"])])).toEqual([
      "arrived",
      "done",
    ]);
  });
  it("puts a visit that two treat on the sheets of both, and tells two of one name apart", () => {
    const both = {
      ...row("d", "a"),
      practitioners: [
        { id: "1", name: "Ines" },
        { id: "2", name: "Ines" },
      ],
    };
    const one = { ...row("d", "b"), practitioners: [{ id: "2", name: "Ines" }] };
    expect(sheetsOf([both, one]).map(({ id, rows }) => [id, rows.length])).toEqual([
      ["1", 1],
      ["2", 2],
    ]);
  });
});
