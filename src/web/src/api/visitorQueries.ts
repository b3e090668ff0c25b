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
  /** Fourteen days from a date on; what is given back is asked for page by page. */
  starts: (body: Omit<Schemas["PublicStartsRequest"], "from" | "days">, from: string | null) => ({
    queryKey: ["starts", body, from],
    initialPageParam: from,
    queryFn: ({ pageParam }: { pageParam: string | null }) =>
      answerOf(visitors.POST("/api/public/v1/starts", { body: { ...body, from: pageParam, days: 14 } })),
    getNextPageParam: (page: Schemas["PublicStarts"]) => page.next ?? undefined,
    staleTime: 0,
  }),
};
