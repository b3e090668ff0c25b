import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Problem } from "../shared/problem";
import "../theme/fonts";
import { system } from "../theme/system";
import { Desk } from "./Desk";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      // A refusal does not get better by asking again; a lost connection does.
      retry: (count, error) => error instanceof Problem && error.code === "offline" && count < 5,
    },
  },
});

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <ChakraProvider value={system}>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Desk />
        </BrowserRouter>
      </QueryClientProvider>
    </ChakraProvider>
  </StrictMode>,
);
