import { t } from "@lingui/core/macro";
import type { components } from "../../../api/generated/schema";
import type { DeskSetup } from "../../../api/staff";
import { plainDate } from "../../../shared/format";
import { pressures } from "../likes";

type Schemas = components["schemas"];

/** What is chosen between two records, in the order of a record. */
export const fieldNames: Record<Schemas["ClientField"], string> = {
  name: t`Name`,
  phone: t`Mobile`,
  email: t`E-mail`,
  born: t`Born`,
  alert: t`What the desk has to know`,
  preferences: t`What they like`,
  source: t`How they came to us`,
  mayBookOnline: t`May book online`,
};

/** What a record says in a field. */
export function saysOf(client: Schemas["ClientDocument"], field: Schemas["ClientField"], setup: DeskSetup): string {
  switch (field) {
    case "name":
      return `${client.givenName} ${client.familyName}`;
    case "born":
      return client.born ? plainDate(client.born) : "";
    case "mayBookOnline":
      return client.mayBookOnline ? t`yes` : t`no`;
    case "preferences":
      return [
        client.likesQuiet && t`likes it quiet`,
        client.likesPressure && pressures[client.likesPressure],
        setup.practitioners.find((one) => one.id === client.likesPractitionerId)?.name,
        setup.rooms.find((room) => room.id === client.likesRoomId)?.name,
        client.likesWords,
      ]
        .filter(Boolean)
        .join(", ");
    default:
      return client[field] ?? "";
  }
}
