import { answerOf } from "../shared/problem";
import type { ZodType } from "zod";
import * as shapes from "./shapes";
import type { components } from "./generated/schema";
import { ifMatch, type Headers } from "./setup";
import { staff } from "./staff";

type Schemas = components["schemas"];

/** How one kind of thing is kept: in which shape, added, or changed over the version that was seen. */
export type Keeper<T> = {
  shape: ZodType;
  add: (item: T, headers: Headers) => Promise<T>;
  put: (item: T, version: number, headers: Headers) => Promise<T>;
};

const only = <T>(shape: ZodType, put: Keeper<T>["put"]): Keeper<T> => ({
  shape,
  add: (item, headers) => put(item, 0, headers),
  put,
});
const at = (item: { id?: string | null }) => ({ path: { id: item.id! } });
const over = (headers: Headers, version: number) => ({ ...headers, ...ifMatch(version) });

/** Everything of the setup that is kept as a whole, by a form. */
export const keepers = {
  business: only<Schemas["BusinessDocument"]>(shapes.zBusinessDocument, (body, version, headers) =>
    answerOf(staff.PUT("/api/v1/setup/business", { headers: over(headers, version), body })),
  ),
  bookingPage: only<Schemas["BookingPageDocument"]>(shapes.zBookingPageDocument, (body, version, headers) =>
    answerOf(staff.PUT("/api/v1/setup/booking-page", { headers: over(headers, version), body })),
  ),
  location: {
    shape: shapes.zLocationDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/locations", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/locations/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["LocationDocument"]>,
  practitioner: {
    shape: shapes.zPractitionerDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/practitioners", { headers, body })),
    put: (body, version, headers) =>
      answerOf(
        staff.PUT("/api/v1/setup/practitioners/{id}", { params: at(body), headers: over(headers, version), body }),
      ),
  } satisfies Keeper<Schemas["PractitionerDocument"]>,
  room: {
    shape: shapes.zRoomDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/rooms", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/rooms/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["RoomDocument"]>,
  equipment: {
    shape: shapes.zEquipmentDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/equipment", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/equipment/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["EquipmentDocument"]>,
  promo: {
    shape: shapes.zPromoDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/promos", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/promos/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["PromoDocument"]>,
  category: {
    shape: shapes.zCategoryDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/categories", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/categories/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["CategoryDocument"]>,
  service: {
    shape: shapes.zServiceDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/services", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/services/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["ServiceDocument"]>,
  addOn: {
    shape: shapes.zAddOnDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/add-ons", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/add-ons/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["AddOnDocument"]>,
  guarantee: {
    add: (body: Schemas["GuaranteeDocument"], headers: Headers) =>
      answerOf(staff.POST("/api/v1/setup/guarantees", { headers, body })),
    put: (body: Schemas["GuaranteeDocument"], version: number, headers: Headers) =>
      answerOf(staff.PUT("/api/v1/setup/guarantees/{id}", { params: at(body), headers: over(headers, version), body })),
  },
  message: {
    shape: shapes.zMessageRuleDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/messages", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/messages/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["MessageRuleDocument"]>,
  question: {
    shape: shapes.zQuestionDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/questions", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/questions/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["QuestionDocument"]>,
  account: {
    shape: shapes.zAccountDocument,
    add: (body, headers) => answerOf(staff.POST("/api/v1/setup/accounts", { headers, body })),
    put: (body, version, headers) =>
      answerOf(staff.PUT("/api/v1/setup/accounts/{id}", { params: at(body), headers: over(headers, version), body })),
  } satisfies Keeper<Schemas["AccountDocument"]>,
};

/** What cancelling costs at a location. */
export const policyKeeper = (id: string) =>
  only<Schemas["PolicyDocument"]>(shapes.zPolicyDocument, (body, version, headers) =>
    answerOf(
      staff.PUT("/api/v1/setup/locations/{id}/policy", {
        params: { path: { id } },
        headers: over(headers, version),
        body,
      }),
    ),
  );

/** When nobody is disturbed. */
export const quietHoursKeeper = only<Schemas["QuietHoursDocument"]>(
  shapes.zQuietHoursDocument,
  (body, version, headers) =>
    answerOf(staff.PUT("/api/v1/setup/quiet-hours", { headers: over(headers, version), body })),
);
