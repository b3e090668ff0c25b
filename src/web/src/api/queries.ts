import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { answerOf, Problem } from "../shared/problem";
import type { components, paths } from "./generated/schema";
import type { ExtraShifts, GuaranteeTry } from "./setup";
import { staff } from "./staff";

type Schemas = components["schemas"];
/** Which clients a list is to hold, as the server is asked. */
export type ClientFilter = Omit<NonNullable<paths["/api/v1/clients/list"]["get"]["parameters"]["query"]>, "skip">;
/** Which visits an agenda is to hold, as the server is asked. */
export type AgendaAsked = NonNullable<paths["/api/v1/agenda"]["get"]["parameters"]["query"]>;
type Shipped = { version: string; packages: { name: string; version: string; licence: string; text: string }[] };
type Call<T> = () => Promise<{ data?: T; error?: unknown; response: Response }>;

const ask = <T>(queryKey: readonly unknown[], call: Call<T>) =>
  queryOptions({ queryKey, queryFn: () => answerOf<T>(call()) });

/** Everything the desk asks the server, each with the key it is remembered under. No key stands anywhere else. */
export const asks = {
  session: () => ask(["session"], () => staff.GET("/api/v1/session")),
  firstOwner: () => ask(["session", "first"], () => staff.GET("/api/v1/session/first")),
  ownSessions: () => ask(["own-sessions"], () => staff.GET("/api/v1/session/all")),
  secondFactor: () => ask(["second-factor"], () => staff.GET("/api/v1/session/second-factor")),

  /** What every screen of the desk needs to know of the setup. */
  desk: () => ask(["desk"], () => staff.GET("/api/v1/setup")),
  business: () => ask(["setup", "business"], () => staff.GET("/api/v1/setup/business")),
  locations: () => ask(["setup", "locations"], () => staff.GET("/api/v1/setup/locations")),
  bookingPage: () => ask(["setup", "booking-page"], () => staff.GET("/api/v1/setup/booking-page")),
  questions: () => ask(["setup", "questions"], () => staff.GET("/api/v1/setup/questions")),
  unmet: () => ask(["setup", "unmet"], () => staff.GET("/api/v1/setup/unmet")),
  guarantees: () => ask(["setup", "guarantees"], () => staff.GET("/api/v1/setup/guarantees")),
  guaranteeTried: (body: GuaranteeTry) =>
    ask(["setup", "guarantee-tried", body], () => staff.POST("/api/v1/setup/guarantees/try", { body })),
  policy: (id: string) =>
    ask(["setup", "policy", id], () => staff.GET("/api/v1/setup/locations/{id}/policy", { params: { path: { id } } })),
  messageRules: () => ask(["setup", "messages"], () => staff.GET("/api/v1/setup/messages")),
  messageVariables: () => ask(["message-variables"], () => staff.GET("/api/v1/setup/message-variables")),
  messageTried: (body: Schemas["MessageTryRequest"]) =>
    ask(["setup", "message-tried", body], () => staff.POST("/api/v1/setup/messages/try", { body })),
  quietHours: () => ask(["setup", "quiet-hours"], () => staff.GET("/api/v1/setup/quiet-hours")),
  /** What was sent and waits, a page at a time. */
  messages: (only: string) =>
    infiniteQueryOptions({
      queryKey: ["messages", only],
      queryFn: ({ pageParam }) =>
        answerOf(
          staff.GET("/api/v1/messages", {
            params: { query: { ...(only && { only }), ...(pageParam && { before: pageParam }) } },
          }),
        ),
      initialPageParam: "",
      getNextPageParam: (page) => page.next,
    }),
  beginnings: () => ask(["beginnings"], () => staff.GET("/api/v1/setup/beginnings")),
  /** What clients would find if the business began so. */
  begunSo: (body: Schemas["BeginRequest"]) =>
    ask(["begun-so", body], () => staff.POST("/api/v1/setup/begin/try", { body })),
  rules: (query: { locationId?: string; categoryId?: string; serviceId?: string }) =>
    ask(["setup", "rules", query], () => staff.GET("/api/v1/setup/rules", { params: { query } })),
  practitioners: () => ask(["setup", "practitioners"], () => staff.GET("/api/v1/setup/practitioners")),
  qualifications: () => ask(["setup", "qualifications"], () => staff.GET("/api/v1/setup/qualifications")),
  work: (id: string) =>
    ask(["setup", "work", id], () => staff.GET("/api/v1/setup/practitioners/{id}/work", { params: { path: { id } } })),
  extraShifts: () => ask(["setup", "extra-shifts"], () => staff.GET("/api/v1/setup/extra-shifts")),
  extraTried: (body: ExtraShifts) =>
    ask(["setup", "extra-shifts", "tried", body], () => staff.POST("/api/v1/setup/extra-shifts/try", { body })),
  calendar: (id: string, from: string, days: number) =>
    ask(["setup", "calendar", id, from, days], () =>
      staff.GET("/api/v1/setup/practitioners/{id}/calendar", { params: { path: { id }, query: { from, days } } }),
    ),
  blocks: (resourceId: string) =>
    ask(["setup", "blocks", resourceId], () =>
      staff.GET("/api/v1/setup/blocks", { params: { query: { resourceId } } }),
    ),
  rooms: () => ask(["setup", "rooms"], () => staff.GET("/api/v1/setup/rooms")),
  equipment: () => ask(["setup", "equipment"], () => staff.GET("/api/v1/setup/equipment")),
  features: () => ask(["setup", "features"], () => staff.GET("/api/v1/setup/features")),
  categories: () => ask(["setup", "categories"], () => staff.GET("/api/v1/setup/categories")),
  services: () => ask(["setup", "services"], () => staff.GET("/api/v1/setup/services")),
  addOns: () => ask(["setup", "add-ons"], () => staff.GET("/api/v1/setup/add-ons")),
  promos: () => ask(["setup", "promos"], () => staff.GET("/api/v1/setup/promos")),
  promoUses: () => ask(["setup", "promos", "uses"], () => staff.GET("/api/v1/setup/promos/uses")),
  whoDoesWhat: (date: string) =>
    ask(["setup", "who", date], () => staff.GET("/api/v1/setup/who-does-what", { params: { query: { date } } })),
  readiness: () => ask(["setup", "readiness"], () => staff.GET("/api/v1/setup/readiness")),
  accounts: () => ask(["setup", "accounts"], () => staff.GET("/api/v1/setup/accounts")),
  setupHistory: (before: number | null, subjectId: string | null = null) =>
    ask(["setup", "history", before, subjectId], () =>
      staff.GET("/api/v1/setup/history", {
        params: { query: { ...(before !== null && { before }), ...(subjectId && { subjectId }) } },
      }),
    ),
  tried: (body: Schemas["TryRequest"]) =>
    ask(["setup", "try", body], () => staff.POST("/api/v1/setup/services/try", { body })),

  /** What ships with the screens; gathered when they were built. */
  licences: () =>
    queryOptions({
      queryKey: ["licences"],
      queryFn: async () => {
        const answer = await fetch("/licences.json");
        if (!answer.ok)
          throw new Problem(answer.status, "missing", "The list of licences is not there.", undefined, {});
        return (await answer.json()) as Shipped;
      },
      staleTime: Infinity,
    }),
  imports: () => ask(["imports"], () => staff.GET("/api/v1/imports")),
  import: (id: string) => ask(["imports", id], () => staff.GET("/api/v1/imports/{id}", { params: { path: { id } } })),

  day: (locationId: string, date: string) =>
    ask(["day", locationId, date], () =>
      staff.GET("/api/v1/locations/{locationId}/days/{date}", { params: { path: { locationId, date } } }),
    ),
  fullness: (locationId: string, from: string, days: number) =>
    ask(["fullness", locationId, from, days], () =>
      staff.GET("/api/v1/locations/{locationId}/fullness", { params: { path: { locationId }, query: { from, days } } }),
    ),
  week: (locationId: string, date: string, resourceId: string) =>
    ask(["day", locationId, "week", date, resourceId], () =>
      staff.GET("/api/v1/locations/{locationId}/weeks/{date}", {
        params: { path: { locationId, date }, query: { resourceId } },
      }),
    ),
  month: (locationId: string, date: string, practitionerId: string | null) =>
    ask(["fullness", locationId, "month", date.slice(0, 7), practitionerId], () =>
      staff.GET("/api/v1/locations/{locationId}/months/{date}", {
        params: { path: { locationId, date }, query: practitionerId ? { practitionerId } : {} },
      }),
    ),
  /** Visits one after another. */
  agenda: (query: AgendaAsked) =>
    ask(["day", "agenda", query], () => staff.GET("/api/v1/agenda", { params: { query } })),
  /** Who has lost their place on a day, and where they could go. */
  covering: (locationId: string, date: string) =>
    ask(["needs-place", "covering", locationId, date], () =>
      staff.GET("/api/v1/locations/{locationId}/covering/{date}", { params: { path: { locationId, date } } }),
    ),
  views: () => ask(["views"], () => staff.GET("/api/v1/views")),
  needsPlace: () => ask(["needs-place"], () => staff.GET("/api/v1/needs-place")),
  /** With the version it is asked for: whatever changes a visit may change its money. */
  visitMoney: (id: string, version: number | string) =>
    ask(["visit", id, "money", version], () => staff.GET("/api/v1/visits/{id}/money", { params: { path: { id } } })),
  /** What has been told of a visit, with the version it is asked for. */
  visitMessages: (id: string, version: number | string) =>
    ask(["visit", id, "messages", version], () =>
      staff.GET("/api/v1/visits/{id}/messages", { params: { path: { id } } }),
    ),
  /** What is to be known of something that was asked for, with the version it is asked for. */
  visitRequest: (id: string, version: number | string) =>
    ask(["visit", id, "request", version], () =>
      staff.GET("/api/v1/visits/{id}/request", { params: { path: { id } } }),
    ),
  visit: (id: string) => ask(["visit", id], () => staff.GET("/api/v1/visits/{id}", { params: { path: { id } } })),
  /** What was written down about whoever comes. */
  visitNotes: (id: string) =>
    ask(["visit", id, "notes"], () => staff.GET("/api/v1/visits/{id}/notes", { params: { path: { id } } })),
  /** Which of several equal places or things a visit has, and which it could have. */
  visitUnits: (id: string) =>
    ask(["visit", id, "units"], () => staff.GET("/api/v1/visits/{id}/units", { params: { path: { id } } })),
  visitCalled: (reference: string) =>
    ask(["visit", "called", reference], () =>
      staff.GET("/api/v1/visit-references/{reference}", { params: { path: { reference } } }),
    ),
  visitHistory: (id: string) =>
    ask(["history", id], () => staff.GET("/api/v1/visits/{id}/history", { params: { path: { id } } })),
  starts: (body: Schemas["StartsRequest"]) => ask(["starts", body], () => staff.POST("/api/v1/starts", { body })),
  lights: (body: Schemas["LightsRequest"]) => ask(["lights", body], () => staff.POST("/api/v1/lights", { body })),
  /** What every visit of a row would meet. */
  repeatTried: (body: Schemas["RepeatTryRequest"]) =>
    ask(["lights", "repeat", body], () => staff.POST("/api/v1/visits/repeat/try", { body })),
  /** Where each visit of a row would go with one of them. */
  rowMoveTried: (id: string, body: Schemas["RowMoveTryRequest"]) =>
    ask(["lights", "row", id, body], () =>
      staff.POST("/api/v1/visits/{id}/series/try", { params: { path: { id } }, body }),
    ),
  steps: () => ask(["steps"], () => staff.GET("/api/v1/undo")),
  /** What a client is offered to have again. */
  again: (id: string, locationId: string | null) =>
    ask(["client", id, "again", locationId], () =>
      staff.GET("/api/v1/clients/{id}/again", { params: { path: { id }, query: locationId ? { locationId } : {} } }),
    ),
  clientVisits: (id: string, most: number) =>
    ask(["client", id, "visits", most], () =>
      staff.GET("/api/v1/clients/{id}/visits", { params: { path: { id }, query: { most } } }),
    ),
  whyNot: (body: Schemas["WhyNotRequest"]) =>
    ask(["why-not", body], () => staff.POST("/api/v1/starts/why-not", { body })),
  dayReasons: (body: Schemas["DayReasonsRequest"]) =>
    ask(["reasons", body], () => staff.POST("/api/v1/starts/days", { body })),

  clients: (search: string) =>
    ask(["clients", search], () => staff.GET("/api/v1/clients", { params: { query: { search } } })),
  clientRecord: (id: string) =>
    ask(["client", id, "record"], () => staff.GET("/api/v1/clients/{id}/record", { params: { path: { id } } })),
  clientAlike: (id: string) =>
    ask(["client", id, "alike"], () => staff.GET("/api/v1/clients/{id}/alike", { params: { path: { id } } })),
  clientLinks: (id: string) =>
    ask(["client", id, "links"], () => staff.GET("/api/v1/clients/{id}/links", { params: { path: { id } } })),
  clientTimeline: (id: string) =>
    infiniteQueryOptions({
      queryKey: ["client", id, "timeline"],
      queryFn: ({ pageParam }: { pageParam: number | null }) =>
        answerOf(
          staff.GET("/api/v1/clients/{id}/timeline", {
            params: { path: { id }, query: pageParam === null ? {} : { before: pageParam } },
          }),
        ),
      initialPageParam: null as number | null,
      getNextPageParam: (last) => (last.length < 50 ? undefined : Number(last.at(-1)!.id)),
    }),
  /** Two records side by side, as they would be made one. */
  beside: (id: string, other: string) =>
    ask(["client", id, "beside", other], () =>
      staff.GET("/api/v1/clients/{id}/beside/{other}", { params: { path: { id, other } } }),
    ),
  alike: () => ask(["clients", "alike"], () => staff.GET("/api/v1/clients/alike")),
  bookedTwice: () => ask(["clients", "booked-twice"], () => staff.GET("/api/v1/clients/booked-twice")),
  clientTags: () => ask(["clients", "tags"], () => staff.GET("/api/v1/clients/tags")),
  /** A part of the clients that a filter holds. */
  clientList: (query: ClientFilter, skip: number) =>
    ask(["clients", "list", query, skip], () =>
      staff.GET("/api/v1/clients/list", { params: { query: { ...query, skip } } }),
    ),
  client: (id: string) => ask(["client", id], () => staff.GET("/api/v1/clients/{id}", { params: { path: { id } } })),
};
