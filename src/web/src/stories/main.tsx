import { i18n } from "#words";
import { ChakraProvider } from "@chakra-ui/react";
import { I18nProvider } from "@lingui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode, useState } from "react";
import { createRoot } from "react-dom/client";
import { Empty, Row, Stack } from "../shared/layout";
import { PartTabs } from "../shared/PartTabs";
import { Press } from "../shared/Press";
import { Sortable } from "../shared/Sortable";
import "../theme/fonts";
import { makeSystem } from "../theme/system";
import { FieldStories } from "./FieldStories";
import { RibbonStories } from "./RibbonStories";
import { SentenceStories } from "./SentenceStories";
import { Story } from "./Story";

const system = makeSystem();

function Others() {
  const [part, setPart] = useState<"one" | "two">("one");
  const [order, setOrder] = useState(["Ines", "Tobias", "Suki"]);
  return (
    <>
      <Story name="Presses">
        {(["small", "normal", "big"] as const).map((size) => (
          <Row key={size}>
            {(["primary", "plain", "quiet", "danger"] as const).map((look) => (
              <Press key={look} look={look} size={size}>
                {look}
              </Press>
            ))}
            <Press size={size} disabled>
              disabled
            </Press>
          </Row>
        ))}
      </Story>
      <Story name="Parts of one thing" holds={part}>
        <PartTabs
          label="Parts"
          names={[
            ["one", "One"],
            ["two", "Two"],
          ]}
          chosen={part}
          onChoose={setPart}
        >
          What belongs to {part}.
        </PartTabs>
      </Story>
      <Story name="A list in order" holds={order}>
        <Sortable items={order} idOf={(name) => name} nameOf={(name) => name} onOrder={setOrder}>
          {(name) => name}
        </Sortable>
      </Story>
      <Story name="Nothing yet">
        <Empty>Nobody is here yet. Add the first practitioner.</Empty>
      </Story>
    </>
  );
}

// The shared parts of the screens, each as it stands on them. Only in development: the build knows nothing of this page.
createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <I18nProvider i18n={i18n}>
      <ChakraProvider value={system}>
        <QueryClientProvider client={new QueryClient()}>
          <Stack as="main" p="24px" gap="16px" maxW="1140px" mx="auto">
            <h1>Parts of the screens</h1>
            <FieldStories />
            <SentenceStories />
            <RibbonStories />
            <Others />
          </Stack>
        </QueryClientProvider>
      </ChakraProvider>
    </I18nProvider>
  </StrictMode>,
);
