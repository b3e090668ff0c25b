import { queryOptions } from "@tanstack/react-query";
import { answerOf } from "../shared/problem";
import type { components } from "./generated/schema";
import { visitors, type Business } from "./public";

type Schemas = components["schemas"];

/** The business as the server wrote it into the page, so that the first look waits for no second answer. */
function withPage(): Business | undefined {
  const written = globalThis.document?.getElementById("business")?.textContent?.trim();
  return written ? (JSON.parse(written) as Business) : undefined;
}

/** What the free times are asked for. */
export type StartsAsked = Omit<Schemas["PublicStartsRequest"], "from" | "days">;

/** What was looked for and not found. */
export type Unmet = Schemas["UnmetRequest"];

/** Everything the booking page asks, each with the key it is remembered under. */
export const visitorsAsk = {
  business: (link: string | null) =>
    queryOptions({
      queryKey: ["business", link],
      queryFn: () => answerOf(visitors.GET("/api/public/v1/business", { params: { query: link ? { link } : {} } })),
      initialData: withPage,
      staleTime: 60_000,
    }),
  price: (body: Schemas["PublicPriceRequest"]) =>
    queryOptions({
      queryKey: ["price", body],
      queryFn: () => answerOf(visitors.POST("/api/public/v1/price", { body })),
    }),
  /** As whom somebody may book who has shown who they are. */
  who: () =>
    queryOptions({
      queryKey: ["mine", "who"],
      queryFn: () => answerOf(visitors.GET("/api/public/v1/mine/who")),
      staleTime: 60_000,
    }),
  /** What somebody sees of their own. */
  mine: () =>
    queryOptions({
      queryKey: ["mine", "all"],
      queryFn: () => answerOf(visitors.GET("/api/public/v1/mine")),
      retry: false,
      staleTime: 0,
    }),
  /** The times to which one's own booking may be moved, fourteen days at a time. */
  moveStarts: (id: string) => ({
    queryKey: ["mine", "starts", id],
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }: { pageParam: string | null }) =>
      answerOf(
        visitors.POST("/api/public/v1/mine/visits/{id}/starts", {
          params: { path: { id } },
          body: { from: pageParam, days: 14 },
        }),
      ),
    getNextPageParam: (page: Schemas["PublicStarts"]) => page.next ?? undefined,
    staleTime: 0,
  }),
  /** With whom one's own booking would be at another time, and what that costs. */
  moveTried: (id: string, start: string) =>
    queryOptions({
      queryKey: ["mine", "tried", id, start],
      queryFn: () =>
        answerOf(
          visitors.POST("/api/public/v1/mine/visits/{id}/move/try", { params: { path: { id } }, body: { start } }),
        ),
      retry: false,
      staleTime: 0,
    }),
  /** Fourteen days from a date on; what is given back is asked for page by page. */
  starts: (body: StartsAsked, from: string | null) => ({
    queryKey: ["starts", body, from],
    initialPageParam: from,
    queryFn: ({ pageParam }: { pageParam: string | null }) =>
      answerOf(visitors.POST("/api/public/v1/starts", { body: { ...body, from: pageParam, days: 14 } })),
    getNextPageParam: (page: Schemas["PublicStarts"]) => page.next ?? undefined,
    staleTime: 0,
  }),
};
