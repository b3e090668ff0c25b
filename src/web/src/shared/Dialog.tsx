import { chakra } from "@chakra-ui/react";
import { useLayoutEffect, useRef, type ComponentProps, type ReactNode } from "react";
import { Box } from "./layout";

const Plain = chakra("dialog", {
  base: {
    m: "auto",
    p: "5",
    bg: "sheet",
    color: "ink",
    borderWidth: "line",
    borderColor: "line",
    borderRadius: "card",
    maxH: "84vh",
    overflowY: "auto",
  },
});

type Props = {
  /** What it is called, for those who do not see it. */
  name: string;
  title: ReactNode;
  maxW?: ComponentProps<typeof Plain>["maxW"];
  onClose: () => void;
  children: ReactNode;
};

/** What has to be answered before anything else goes on. It is open as long as it is there; Escape closes it. */
export function Dialog({ name, title, maxW, onClose, children }: Props) {
  const ref = useRef<HTMLDialogElement>(null);
  // Closed while it is still there, it gives the focus back to what had it before.
  useLayoutEffect(() => {
    const dialog = ref.current;
    dialog?.showModal();
    return () => dialog?.close();
  }, []);
  return (
    <Plain ref={ref} aria-label={name} maxW={maxW} onClose={() => !ref.current?.open && onClose()}>
      <Box as="h2" fontSize="title" mb="2">
        {title}
      </Box>
      {children}
    </Plain>
  );
}
