import createClient from "openapi-fetch";
import type { components, paths } from "./generated/schema";

type Schemas = components["schemas"];
export type Business = Schemas["PublicBusiness"];
export type Service = Schemas["PublicService"];
export type Price = Schemas["PublicPrice"];
export type Starts = Schemas["PublicStarts"];
export type Day = Schemas["PublicDay"];
export type Hold = Schemas["PublicHold"];
export type Own = Schemas["OwnAnswer"];
export type OwnVisit = Schemas["OwnVisit"];
export type Booked = Schemas["PublicVisit"];

export const visitors = createClient<paths>({ baseUrl: "/" });
