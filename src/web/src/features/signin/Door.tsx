import type { FormEvent, ReactNode } from "react";
import { chakra } from "@chakra-ui/react";

const Box = chakra("div");
const Form = chakra("form");

/** The frame of what is asked before anybody is signed in. */
export function Door({ title, onSubmit, children }: { title: string; onSubmit: () => void; children: ReactNode }) {
  return (
    <Box as="main" minH="100%" display="grid" placeItems="center" p="5">
      <Form
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          onSubmit();
        }}
        noValidate
        w="100%"
        maxW="90"
        bg="sheet"
        borderWidth="line"
        borderColor="line"
        borderRadius="card"
        p="6"
        display="grid"
        gap="4"
      >
        <Box display="flex" alignItems="center" gap="2.5">
          <img src="/kingcup.svg" alt="" width="34" height="34" />
          <Box as="h1" fontSize="page">
            {title}
          </Box>
        </Box>
        {children}
      </Form>
    </Box>
  );
}
