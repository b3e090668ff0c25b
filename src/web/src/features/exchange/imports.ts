import { t } from "@lingui/core/macro";
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
export const countedRows = (count: number | string, kind: Kind) =>
  counted(Number(count), kinds[kind].one, kinds[kind].many);
