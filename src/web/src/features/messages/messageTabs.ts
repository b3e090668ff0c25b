import { t } from "@lingui/core/macro";

/** The pages about messages; what they say is for those who edit the setup. */
export const messageTabs = (mayEdit: boolean): [path: string, name: string][] => [
  ["/messages", t`Sent and waiting`],
  ...(mayEdit ? [["/messages/rules", t`What is said, and when`] as [string, string]] : []),
];
