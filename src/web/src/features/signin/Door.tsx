import type { FormEvent, ReactNode } from "react";
import { chakra } from "@chakra-ui/react";

const Box = chakra("div");
const Form = chakra("form");

/** The frame of what is asked before anybody is signed in. */
export function Door({ title, onSubmit, children }: { title: string; onSubmit: () => void; children: ReactNode }) {
  return (
    <Box as="main" minH="100%" display="grid" placeItems="center" p="20px">
      <Form
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          onSubmit();
        }}
        noValidate
        w="100%"
        maxW="360px"
        bg="sheet"
        borderWidth="1px"
        borderColor="line"
        borderRadius="card"
        p="26px"
        display="grid"
        gap="16px"
      >
        <Box display="flex" alignItems="center" gap="10px">
          <img src="/kingcup.svg" alt="" width="34" height="34" />
          <Box as="h1" fontSize="24px">
            {title}
          </Box>
        </Box>
        {children}
      </Form>
    </Box>
  );
}
