import { answerOf } from "../shared/problem";
import type { components } from "./generated/schema";
import { staffToken } from "./staff";

type Schemas = components["schemas"];
export type Business = Schemas["BusinessDocument"];
export type Location = Schemas["LocationDocument"];
export type Rules = Schemas["OnlineRules"];
export type RulesAnswer = Schemas["RulesAnswer"];
export type Practitioner = Schemas["PractitionerDocument"];
export type Qualification = Schemas["QualificationDocument"];
export type Held = Schemas["HeldDocument"];
export type HeldChange = Schemas["HeldChange"];
export type Rota = Schemas["RotaDocument"];
export type Shift = Schemas["ShiftDocument"];
export type Work = Schemas["WorkAnswer"];
export type WorkDay = Schemas["WorkDay"];
export type Block = Schemas["BlockDocument"];
export type Room = Schemas["RoomDocument"];
export type Equipment = Schemas["EquipmentDocument"];
export type Category = Schemas["CategoryDocument"];
export type Service = Schemas["ServiceDocument"];
export type BookingPage = Schemas["BookingPageDocument"];
export type Question = Schemas["QuestionDocument"];
export type AddOn = Schemas["AddOnDocument"];
export type WhoDoesWhat = Schemas["WhoDoesWhat"];
export type Readiness = Schemas["ReadinessReport"];
export type Issue = Schemas["ReadinessAnswer"];
export type ReasonText = Schemas["ReasonText"];
export type DayReasons = Schemas["DayReasonsAnswer"];
export type TryDay = Schemas["TryDay"];
export type NeedsPlace = Schemas["NeedsPlaceAnswer"];
export type Account = Schemas["AccountDocument"];
export type HistoryRow = Required<Schemas["SetupHistoryRow"]>;
export type Import = Schemas["ImportAnswer"];
export type ImportColumn = Schemas["ImportColumn"];
export type ImportFault = Schemas["ImportFaultAnswer"];
export type Weekday = Schemas["Weekday"];

type Method = "GET" | "POST" | "PUT" | "DELETE";
export type Headers = Record<string, string>;

/** Sends a request of the setup; what the server refuses is thrown. */
export function send<T>(method: Method, path: string, body?: unknown, headers: Headers = {}): Promise<T> {
  const isForm = body instanceof FormData;
  return answerOf<T>(
    (async () => {
      const response = await fetch(`/api/v1${path}`, {
        method,
        headers: {
          ...(method === "GET" ? {} : { "X-Kingcup-Token": staffToken() }),
          ...(isForm || body === undefined ? {} : { "Content-Type": "application/json" }),
          ...headers,
        },
        ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
      });
      const text = await response.text();
      const json: unknown =
        text && response.headers.get("content-type")?.includes("json") ? JSON.parse(text) : undefined;
      return response.ok ? { data: json as T, response } : { error: json, response };
    })(),
  );
}

export const read = <T>(path: string) => send<T>("GET", path);
export const ifMatch = (version: number | string | undefined): Headers => ({ "If-Match": String(version ?? 0) });
export const pictureOf = (id: string | null | undefined) => (id ? `/api/public/v1/pictures/${id}` : undefined);
