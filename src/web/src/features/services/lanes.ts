import { t } from "@lingui/core/macro";
import type { Equipment, Service } from "../../api/setup";

export type LanePiece = {
  from: number;
  until: number;
  look: "there" | "away" | "buffer" | "extra";
  words: string;
  /** The phase it belongs to, or null. */
  phase: number | null;
};
export type Lane = {
  kind: "role" | "room" | "equipment";
  name: string;
  pieces: LanePiece[];
  until: number;
  /** Where each phase ends. */
  edges: number[];
};

/** A service drawn lane by lane, in minutes from the beginning of its buffer; extras lie where the server says. */
export function lanesOf(service: Service, pools: Equipment[], extra: { minutes: number; phase: number }): Lane[] {
  const phases = (service.phases ?? []).map((phase, i) => ({
    ...phase,
    length: phase.minutes + (i === extra.phase ? extra.minutes : 0),
  }));
  const starts: number[] = [];
  let at = service.bufferBeforeMinutes;
  for (const phase of phases) {
    starts.push(at);
    at += phase.length;
  }
  const end = at;
  const edges = phases.map((phase, i) => starts[i]! + phase.length);
  const extraOf = (i: number): LanePiece[] =>
    i === extra.phase && extra.minutes > 0
      ? [{ from: edges[i]! - extra.minutes, until: edges[i]!, look: "extra", words: t`extras`, phase: null }]
      : [];
  const lanes: Lane[] = (service.roles ?? []).map((role, r) => {
    const pieces: LanePiece[] = phases.flatMap((phase, i): LanePiece[] => {
      const attends = (phase.attendedBy ?? []).includes(r);
      const words = attends ? t`with the client` : t`free meanwhile`;
      const own = { from: starts[i]!, until: edges[i]! - (i === extra.phase ? extra.minutes : 0), words, phase: i };
      return [{ ...own, look: attends ? "there" : "away" }, ...(attends ? extraOf(i) : [])];
    });
    const buffer = (from: number, minutes: number, words: string): LanePiece[] =>
      minutes > 0 ? [{ from, until: from + minutes, look: "buffer", words, phase: null }] : [];
    return {
      kind: "role",
      name: (service.roles ?? []).length > 1 ? role.name || t`Role ${r + 1}` : t`Practitioner`,
      pieces: [
        ...buffer(0, service.bufferBeforeMinutes, "before"),
        ...pieces,
        ...buffer(end, service.bufferAfterMinutes, "after"),
      ],
      until: end + service.bufferAfterMinutes,
      edges,
    };
  });
  const begin = service.bufferBeforeMinutes;
  if (service.room) {
    const words =
      (service.room.features ?? []).length > 0
        ? t`in a room with ${service.room.features!.join(", ")}`
        : t`in any room`;
    lanes.push({
      kind: "room",
      name: t`Room`,
      pieces: [{ from: begin, until: end, look: "there", words, phase: null }],
      until: end,
      edges,
    });
  }
  const used = [...new Set(phases.flatMap((phase) => (phase.equipment ?? []).map((need) => need.poolId)))];
  for (const poolId of used) {
    const pieces = phases.flatMap((phase, i): LanePiece[] =>
      (phase.equipment ?? []).some((need) => need.poolId === poolId)
        ? [{ from: starts[i]!, until: edges[i]!, look: "there", words: t`in use`, phase: i }]
        : [],
    );
    lanes.push({
      kind: "equipment",
      name: pools.find((pool) => pool.id === poolId)?.name ?? t`Equipment`,
      pieces,
      until: end,
      edges,
    });
  }
  return lanes;
}
