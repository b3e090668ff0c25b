import { t } from "@lingui/core/macro";

/** The pages about all clients. */
export const clientTabs: [path: string, name: string][] = [
  ["/clients", t`All clients`],
  ["/clients/tidy", t`Entered or booked twice`],
];
