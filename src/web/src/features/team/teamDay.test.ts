import { expect, it } from "vitest";
import type { Day } from "../../api/staff";
import { presencesOf } from "./teamDay";

const lane = (
  id: string,
  kind: string,
  open: [string, string][],
  blocked: [string, string][] = [],
  fullness: number | null = null,
) => {
  const stretch = ([from, until]: [string, string]) => ({
    from: `2027-03-09T${from}:00Z`,
    until: `2027-03-09T${until}:00Z`,
    reason: null,
  });
  return { id, kind, name: id, detail: "", units: 1, open: open.map(stretch), blocked: blocked.map(stretch), fullness };
};
const day = (...lanes: ReturnType<typeof lane>[]) => ({ zone: "Europe/Dublin", lanes }) as unknown as Day;

it("somebody is where they are on shift, at several places too, and nobody is where they are not", () => {
  const found = presencesOf([
    {
      place: "Mill Street",
      day: day(
        lane(
          "ana",
          "practitioner",
          [["09:00", "12:00"]],
          [
            ["10:30", "11:00"],
            ["18:00", "19:00"],
          ],
          40,
        ),
        lane("ben", "practitioner", []),
        lane("alder", "room", [["08:00", "20:00"]]),
      ),
    },
    { place: "Boathouse", day: day(lane("ana", "practitioner", [["14:00", "18:00"]], [], 0)) },
  ]);
  expect([...found.keys()]).toEqual(["ana"]);
  expect(found.get("ana")).toEqual([
    { place: "Mill Street", fullness: 40, open: [{ from: 540, until: 720 }], blocked: [{ from: 630, until: 660 }] },
    { place: "Boathouse", fullness: 0, open: [{ from: 840, until: 1080 }], blocked: [] },
  ]);
});
