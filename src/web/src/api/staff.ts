import createClient from "openapi-fetch";
import { staffHere } from "../shared/staffHere";
import type { components, paths } from "./generated/schema";

type Schemas = components["schemas"];
export type UnitHeld = Schemas["UnitHeldAnswer"];
export type UnitOption = Schemas["UnitOption"];
export type Session = Schemas["SessionAnswer"];
export type DeskSetup = Schemas["DeskSetup"];
export type Day = Schemas["DayAnswer"];
export type Lane = Schemas["LaneAnswer"];
export type Visit = Schemas["VisitAnswer"];
export type Client = Schemas["ClientAnswer"];
export type Start = Schemas["StartAnswer"];
export type Anyway = Schemas["AnywayAnswer"];
export type ClientFile = Schemas["ClientDocument"];
export type CancelledBy = NonNullable<Schemas["CancelledBy"]>;
export type VisitState = Schemas["VisitState"];

let token = "";

/** The session's token, sent with every request that changes something. */
export const rememberToken = (next: string) => {
  token = next;
  staffHere.mark();
};

export const staff = createClient<paths>({ baseUrl: "/" });

staff.use({
  onRequest({ request }) {
    if (request.method !== "GET" && token) request.headers.set("X-Kingcup-Token", token);
    return request;
  },
});
