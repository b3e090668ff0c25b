import { plural, t } from "@lingui/core/macro";
import type { Import } from "../../api/setup";

export type Kind = Import["kind"];

/** What one row of a file is. */
export const kinds: Record<Kind, string> = {
  clients: t`client`,
  services: t`service`,
  practitioners: t`practitioner`,
};

/** What the rows of a file are. */
export const manyOf: Record<Kind, string> = {
  clients: t`clients`,
  services: t`services`,
  practitioners: t`practitioners`,
};

/** Words for how far an import has come. */
export const states: Record<Import["state"], string> = {
  uploaded: t`waiting for its columns`,
  checking: t`being checked`,
  checked: t`checked, not taken over yet`,
  importing: t`being taken over`,
  imported: t`taken over`,
  undoing: t`being taken back`,
  undone: t`taken back`,
  failed: t`not taken over`,
};

/** Encodings people meet, with whom they meet them. */
export const encodings: [name: string, words: string][] = [
  ["utf-8", t`UTF-8, usual today`],
  ["windows-1252", t`Western Europe (Windows)`],
  ["windows-1250", t`Central Europe (Windows)`],
  ["windows-1251", t`Cyrillic (Windows)`],
  ["windows-1253", t`Greek (Windows)`],
  ["windows-1254", t`Turkish (Windows)`],
  ["windows-1257", t`Baltic (Windows)`],
  ["macintosh", t`Western Europe (older Mac)`],
  ["utf-16", "UTF-16"],
];

/** "1,204 clients", "1 client". */
export function countedRows(count: number | string, kind: Kind): string {
  const rows = Number(count);
  if (kind === "clients") return plural(rows, { one: "# client", other: "# clients" });
  if (kind === "services") return plural(rows, { one: "# service", other: "# services" });
  return plural(rows, { one: "# practitioner", other: "# practitioners" });
}
