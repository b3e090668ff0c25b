import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { startTransition, StrictMode } from "react";
import { createRoot } from "react-dom/client";
import "../theme/fonts";
import { system } from "../theme/system";
import { BookingPage } from "../features/booking/page/BookingPage";

const queries = new QueryClient({ defaultOptions: { queries: { staleTime: 60_000, retry: 1 } } });

// As a transition the first picture is drawn in small steps between which a slow phone still answers a finger.
startTransition(() =>
  createRoot(document.getElementById("root")!).render(
    <StrictMode>
      <ChakraProvider value={system}>
        <QueryClientProvider client={queries}>
          <BookingPage />
        </QueryClientProvider>
      </ChakraProvider>
    </StrictMode>,
  ),
);
