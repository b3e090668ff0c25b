import { i18n } from "#words";
import { ChakraProvider } from "@chakra-ui/react";
import { I18nProvider } from "@lingui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { startTransition, StrictMode } from "react";
import { createRoot } from "react-dom/client";
import "../theme/fonts";
import { number } from "../shared/format";
import { system } from "../theme/system";
import { BookingPage } from "../features/booking/page/BookingPage";

const queries = new QueryClient({ defaultOptions: { queries: { staleTime: 60_000, retry: 1 } } });

// The browser fetches what it knows of languages at the first number; here, where there is nothing yet that could be pressed.
number(0);

// As a transition the first picture is drawn in small steps between which a slow phone still answers a finger.
startTransition(() =>
  createRoot(document.getElementById("root")!).render(
    <StrictMode>
      <I18nProvider i18n={i18n}>
        <ChakraProvider value={system}>
          <QueryClientProvider client={queries}>
            <BookingPage />
          </QueryClientProvider>
        </ChakraProvider>
      </I18nProvider>
    </StrictMode>,
  ),
);
