import type { UserConfig } from "@hey-api/openapi-ts";

/** The forms of figures and identities are the server's to check; identities here are of any version. */
function withoutForms(part: unknown): void {
  if (Array.isArray(part)) part.forEach(withoutForms);
  if (typeof part !== "object" || part === null) return;
  const schema = part as { format?: unknown };
  if (typeof schema.format === "string" && ["uuid", "int32", "int64"].includes(schema.format)) delete schema.format;
  Object.values(part).forEach(withoutForms);
}

/** The shapes of what forms keep, with the limits the server states of them, as zod reads them. */
export default {
  input: "./openapi.json",
  parser: {
    patch: { input: (document) => withoutForms(document.components) },
    filters: {
      schemas: {
        include: [
          "AccountDocument",
          "AddOnDocument",
          "BookingPageDocument",
          "BusinessDocument",
          "CategoryDocument",
          "ClientDocument",
          "EquipmentDocument",
          "LocationDocument",
          "MessageRuleDocument",
          "PolicyDocument",
          "PractitionerDocument",
          "PromoDocument",
          "QuestionDocument",
          "QuietHoursDocument",
          "RoomDocument",
          "ServiceDocument",
        ],
      },
      operations: { exclude: ["/.*/"] },
      orphans: true,
    },
  },
  output: { path: "src/api/generated/shapes", tsConfigPath: "off" },
  plugins: [{ name: "zod", requests: false, responses: false }],
} satisfies UserConfig;
