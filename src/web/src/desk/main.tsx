import { asks } from "../api/queries";
import { i18n } from "#words";
import { ChakraProvider } from "@chakra-ui/react";
import { I18nProvider } from "@lingui/react";
import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter } from "react-router";
import { RouterProvider } from "react-router/dom";
import { askAnew } from "../shared/askAnew";
import { Problem } from "../shared/problem";
import "../theme/fonts";
import { makeSystem } from "../theme/system";
import { Desk } from "./Desk";

const system = makeSystem();

// A session that has ended is asked about at once: the sign-in then stands where one was, and leads back there.
const lookForSession = (error: Error) => {
  if (error instanceof Problem && error.status === 401)
    void askAnew(queries, { queryKey: asks.session().queryKey, exact: true });
};

const queries: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, query) => {
      if (query.queryKey[0] !== "session") lookForSession(error);
    },
  }),
  mutationCache: new MutationCache({ onError: lookForSession }),
  defaultOptions: {
    // What cannot be saved now is refused now: kept back until the line is there again, it would be done when nobody expects it.
    mutations: { networkMode: "always" },
    queries: {
      staleTime: 30_000,
      // A refusal does not get better by asking again; a lost connection does.
      retry: (count, error) => error instanceof Problem && error.code === "offline" && count < 5,
    },
  },
});

// The pages are routed inside; this one only lets leaving be asked about.
const router = createBrowserRouter([{ path: "*", element: <Desk /> }]);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <I18nProvider i18n={i18n}>
      <ChakraProvider value={system}>
        <QueryClientProvider client={queries}>
          <RouterProvider router={router} />
        </QueryClientProvider>
      </ChakraProvider>
    </I18nProvider>
  </StrictMode>,
);
