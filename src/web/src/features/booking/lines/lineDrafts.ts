import type { components } from "../../../api/generated/schema";
import type { DeskSetup, Visit } from "../../../api/staff";
import type { Chosen } from "../fits";

export type LineRequest = components["schemas"]["DeskLineRequest"];

/** A line of a visit as it is written at the desk. */
export type LineDraft = {
  /** Which it is on the screen. */
  key: string;
  /** Which of the visit's lines it is, where that stands. */
  id: string | null;
  serviceId: string;
  practitionerId: string;
  /** Whether the client asked for the practitioner; where somebody was only pointed at, they did not. */
  asked: boolean;
  addOnIds: string[];
  roomId: string;
  /** The length set by hand, or null where the service says it. */
  minutes: number | null;
  /** Who of those who come it is for, 0 for the client. */
  person: number;
};

export const blankLine = (change: Partial<LineDraft> = {}): LineDraft => ({
  key: crypto.randomUUID(),
  id: null,
  serviceId: "",
  practitionerId: "",
  asked: true,
  addOnIds: [],
  roomId: "",
  minutes: null,
  person: 0,
  ...change,
});

/** The lines of a visit that stands; of another visit the same again, as new ones. */
export const linesOf = (visit: Visit, again = false): LineDraft[] =>
  visit.lines.map((line) =>
    blankLine({
      id: again ? null : line.id,
      serviceId: line.serviceId,
      // Whoever did it is wanted again; in a visit that stands they stay unless somebody changes that.
      practitionerId: line.practitioners[0]?.id ?? "",
      asked: line.practitionerAsked,
      addOnIds: line.addOns.flatMap((addOn) => Array<string>(addOn.count).fill(addOn.addOnId)),
      roomId: line.roomAsked ? (line.roomId ?? "") : "",
      minutes: line.setMinutes ?? null,
      person: line.person,
    }),
  );

/** The same again, without those who have left and extras that are no longer offered. */
export const linesAgain = (visit: Visit, setup: Pick<DeskSetup, "practitioners" | "services">): LineDraft[] =>
  linesOf(visit, true).map((line) => {
    const isHere = setup.practitioners.some((who) => who.id === line.practitionerId && !who.hasLeft);
    const offered = setup.services.find((service) => service.id === line.serviceId)?.addOns ?? [];
    return {
      ...line,
      practitionerId: isHere ? line.practitionerId : "",
      addOnIds: line.addOnIds.filter((id) => offered.some((addOn) => addOn.id === id)),
    };
  });

/** What the server is asked: every line that says what it is. */
export const requestOf = (lines: LineDraft[]): LineRequest[] =>
  lines
    .filter((line) => line.serviceId !== "")
    .map((line) => ({
      ...(line.id && { id: line.id }),
      serviceId: line.serviceId,
      practitionerId: line.practitionerId || null,
      asked: line.practitionerId ? line.asked : null,
      addOns: [...new Set(line.addOnIds)].map((addOnId) => ({
        addOnId,
        count: line.addOnIds.filter((other) => other === addOnId).length,
      })),
      roomId: line.roomId || null,
      minutes: line.minutes,
      person: line.person,
    }));

/** The same lines put down somewhere: whose lane it was takes the first line, or its room the line that lies in it. */
export function putInto(lines: LineRequest[], chosen: Pick<Chosen, "practitionerId" | "room">) {
  const { practitionerId, room } = chosen;
  return lines.map((line, i) => ({
    ...line,
    ...(i === 0 && { practitionerId, asked: line.practitionerId === practitionerId ? (line.asked ?? null) : false }),
    ...(i === room?.line && { roomId: room.id }),
  }));
}
