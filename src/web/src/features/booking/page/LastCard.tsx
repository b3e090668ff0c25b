import { chakra } from "@chakra-ui/react";
import { useEffect, useRef, type ReactNode } from "react";

const Box = chakra("main", {
  base: {
    outline: "none",
    bg: "sheet",
    borderWidth: "line",
    borderColor: "line",
    borderRadius: "card",
    p: "5",
    display: "grid",
    gap: "2.5",
    justifyItems: "start",
    maxW: "140",
  },
});

/** What became of a booking. It has the focus as soon as it is there, and whenever it says something new. */
export function LastCard({ says, children }: { says: string; children: ReactNode }) {
  const ref = useRef<HTMLElement>(null);
  useEffect(() => ref.current?.focus(), [says]);
  return (
    <Box ref={ref} tabIndex={-1}>
      {children}
    </Box>
  );
}
