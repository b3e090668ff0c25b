import { t } from "@lingui/core/macro";
import { chakra } from "@chakra-ui/react";
import { useEffect, useRef, type ReactNode } from "react";
import { Press } from "../../shared/Press";

const Box = chakra("div");

/** Where the focus goes when what opened a sheet is no longer there. */
export const underneath = "under-the-sheet";

type Props = {
  title: string;
  children: ReactNode;
  /** What stays in sight at the foot while the rest scrolls behind no part of it: what it all ends in. */
  foot?: ReactNode;
  onClose: () => void;
};

/** The side sheet on the right. It lies over the page, and nothing underneath moves. */
export function Sheet({ title, children, foot, onClose }: Props) {
  const ref = useRef<HTMLDivElement>(null);
  // Whoever opens the sheet from the keyboard goes on inside it.
  useEffect(() => {
    const before = document.activeElement as HTMLElement | null;
    if (!ref.current?.contains(before)) ref.current?.focus();
    return () => {
      const back = before?.isConnected && before !== document.body ? before : document.getElementById(underneath);
      back?.focus();
    };
  }, []);
  return (
    <Box
      as="aside"
      ref={ref}
      tabIndex={-1}
      aria-label={title}
      position="absolute"
      top="0"
      bottom="0"
      insetInlineEnd="0"
      w="90"
      maxW="100%"
      display="flex"
      flexDirection="column"
      bg="sheet"
      borderLeftWidth="line"
      borderColor="line"
      boxShadow="sheet"
      zIndex={20}
      outline="none"
    >
      <Box flex="1" minH="0" overflowY="auto" px="4" py="3.5">
        <Box display="flex" alignItems="start" justifyContent="space-between" gap="2.5" mb="2.5">
          <Box as="h2" fontSize="title">
            {title}
          </Box>
          <Press size="small" look="quiet" onClick={onClose} aria-label={t`Close`} aria-keyshortcuts="Escape">
            ✕
          </Press>
        </Box>
        {children}
      </Box>
      {foot && (
        <Box borderTopWidth="line" borderColor="line" px="4" py="2.5" maxH="50%" overflowY="auto">
          {foot}
        </Box>
      )}
    </Box>
  );
}

/** A line of facts: what it is on the left, what it says on the right. */
export const Fact = ({ label, children }: { label: string; children: ReactNode }) => (
  <Box display="flex" justifyContent="space-between" gap="3.5" py="1.5" borderTopWidth="line" borderColor="line">
    <Box color="quiet" flexShrink={0}>
      {label}
    </Box>
    <Box textAlign="right" fontWeight="600" minW="0" overflowWrap="anywhere">
      {children}
    </Box>
  </Box>
);

/** A refusal, said where it happened and announced. */
export const Refusal = ({ children }: { children: ReactNode }) => (
  <Box role="alert" color="clay" borderLeftWidth="mark" borderColor="clay" pl="2.5" my="2.5">
    {children}
  </Box>
);
