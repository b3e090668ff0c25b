import { t } from "@lingui/core/macro";

/** What the roles of sign-ins are called. */
export const roleNames: Record<string, string> = {
  Owner: t`Owner`,
  Manager: t`Manager`,
  Desk: t`Desk`,
  Practitioner: t`Practitioner`,
  Bookkeeper: t`Bookkeeper`,
};
