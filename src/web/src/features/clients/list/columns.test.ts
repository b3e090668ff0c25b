import { describe, expect, it } from "vitest";
import { columnsOf, templateOf, withColumn } from "./columns";

describe("the columns of the list of clients", () => {
  it("stand in their own order, whatever order they were chosen in, and what is none is passed over", () => {
    expect(columnsOf("nextVisit phone nonsense")).toEqual(["phone", "nextVisit"]);
    expect(columnsOf("")).toEqual([]);
  });

  it("are put in and taken out one by one", () => {
    expect(withColumn("phone nextVisit", "born", true)).toBe("phone born nextVisit");
    expect(withColumn("phone nextVisit", "phone", false)).toBe("nextVisit");
    expect(withColumn("phone", "phone", true)).toBe("phone");
  });

  it("leave the name the room that is left", () => expect(templateOf(["visits"])).toBe("minmax(0, 5fr) 64px"));
});
