import { i18n } from "#words";
import { ChakraProvider } from "@chakra-ui/react";
import { I18nProvider } from "@lingui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, startTransition, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import "../theme/fonts";
import { BookingPage } from "../features/booking/page/BookingPage";
import { number } from "../shared/format";
import { makeSystem } from "../theme/system";

// Whoever books fetches nothing of it.
const MinePage = lazy(() => import("../features/clients/mine/MinePage").then((page) => ({ default: page.MinePage })));
const isMine = window.location.pathname.replace(/\/$/, "") === "/book/mine";

const queries = new QueryClient({
  defaultOptions: { queries: { staleTime: 60_000, retry: 1 }, mutations: { networkMode: "always" } },
});

/** Lets the browser answer a finger before going on. */
const breath = () =>
  new Promise<void>((go) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => go();
    port2.postMessage(null);
  });

/** What a slow phone has to do before the first picture, in steps between which it can still draw and answer. */
async function begin() {
  await breath();
  // The browser fetches what it knows of languages at the first number; here, where there is nothing yet that could be pressed.
  number(0);
  await breath();
  const system = makeSystem();
  await breath();
  // As a transition the first picture is drawn in small steps too.
  startTransition(() =>
    createRoot(document.getElementById("root")!).render(
      <StrictMode>
        <I18nProvider i18n={i18n}>
          <ChakraProvider value={system}>
            <QueryClientProvider client={queries}>
              {isMine ? (
                <Suspense>
                  <MinePage />
                </Suspense>
              ) : (
                <BookingPage />
              )}
            </QueryClientProvider>
          </ChakraProvider>
        </I18nProvider>
      </StrictMode>,
    ),
  );
}

void begin();
