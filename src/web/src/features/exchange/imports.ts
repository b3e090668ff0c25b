import { counted } from "../../shared/format";
import type { Import } from "../../api/setup";

export type Kind = Import["kind"];

/** Words for what a file holds. */
export const kinds: Record<Kind, { one: string; many: string }> = {
  clients: { one: "client", many: "clients" },
  services: { one: "service", many: "services" },
  practitioners: { one: "practitioner", many: "practitioners" },
};

/** Words for how far an import has come. */
export const states: Record<Import["state"], string> = {
  uploaded: "waiting for its columns",
  checking: "being checked",
  checked: "checked, not taken over yet",
  importing: "being taken over",
  imported: "taken over",
  undoing: "being taken back",
  undone: "taken back",
  failed: "not taken over",
};

/** Encodings people meet, with whom they meet them. */
export const encodings: [name: string, words: string][] = [
  ["utf-8", "UTF-8, usual today"],
  ["windows-1252", "Western Europe (Windows)"],
  ["windows-1250", "Central Europe (Windows)"],
  ["windows-1251", "Cyrillic (Windows)"],
  ["windows-1253", "Greek (Windows)"],
  ["windows-1254", "Turkish (Windows)"],
  ["windows-1257", "Baltic (Windows)"],
  ["macintosh", "Western Europe (older Mac)"],
  ["utf-16", "UTF-16"],
];

/** "1,204 clients", "1 client". */
export const countedRows = (count: number | string, kind: Kind) =>
  counted(Number(count), kinds[kind].one, kinds[kind].many);
