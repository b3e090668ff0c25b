import { chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { useArrived } from "./arrived";
import { wide } from "../theme/media";

export const Box = chakra("div");
export const Span = chakra("span");
export const Row = chakra("div", { base: { display: "flex", alignItems: "center", gap: "2.5", flexWrap: "wrap" } });
export const Stack = chakra("div", {
  base: { display: "grid", gridTemplateColumns: "minmax(0, 1fr)", gap: "3.5", alignContent: "start" },
});
export const Panel = chakra("section", {
  base: { bg: "sheet", borderWidth: "line", borderColor: "line", borderRadius: "card", py: "4", px: "4" },
});
export const Table = chakra("table", {
  base: {
    borderCollapse: "collapse",
    w: "100%",
    "& th, & td": {
      textAlign: "left",
      py: "1.5",
      px: "2.5",
      borderBottomWidth: "line",
      borderColor: "line",
      verticalAlign: "top",
    },
    "& th": { fontWeight: "600", fontSize: "small" },
  },
});
/** A part that is a form. It says itself, beside each field, what is wrong; the browser would say it in words of its own. */
export const asForm = { as: "form", noValidate: true } as const;
const Anchor = chakra(Link);

/** A page beside the rail: its title, what can be done, and its body. */
export function Page({
  title,
  lead,
  actions,
  children,
}: {
  title: string;
  lead?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
}) {
  const heading = useArrived<HTMLHeadingElement>();
  return (
    // What has the focus is never under the bar with the buttons. What only screen readers see scrolls with the rest.
    <Box as="main" position="relative" h="100%" overflowY="auto" px="6" py="4" scrollPaddingBottom="16">
      <Row justifyContent="space-between" mb="1" minH="10">
        <Box as="h1" ref={heading} tabIndex={-1} outline="none" fontSize="page">
          {title}
        </Box>
        <Row>{actions}</Row>
      </Row>
      {lead && (
        <Box color="quiet" mb="3.5" maxW="180">
          {lead}
        </Box>
      )}
      {children}
    </Box>
  );
}

/** Pages that belong together. */
export function Tabs({ label, items }: { label: string; items: [path: string, name: string][] }) {
  const { pathname } = useLocation();
  // The longest address that leads here is the page that is open.
  const [here] = items
    .map(([path]) => path)
    .filter((path) => pathname === path || pathname.startsWith(`${path}/`))
    .sort((a, b) => b.length - a.length);
  return (
    <Box
      as="nav"
      aria-label={label}
      display="flex"
      flexWrap="wrap"
      gap="1"
      borderBottomWidth="line"
      borderColor="line"
      mb="4"
    >
      {items.map(([path, name]) => (
        <Anchor
          key={path}
          to={path}
          aria-current={path === here ? "page" : undefined}
          px="3"
          py="2"
          borderBottomWidth="mark"
          borderColor={path === here ? "kingcup" : "transparent"}
          fontWeight={path === here ? "700" : "400"}
        >
          {name}
        </Anchor>
      ))}
    </Box>
  );
}

/** What is chosen in a box of its own, with its heading. */
export function Section({
  title,
  hint,
  actions,
  children,
}: {
  title: string;
  hint?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Panel aria-label={title}>
      <Row justifyContent="space-between" mb={hint ? "0.5" : "2.5"}>
        <Box as="h2" fontSize="text">
          {title}
        </Box>
        {actions}
      </Row>
      {hint && (
        <Box color="quiet" fontSize="small" mb="2.5">
          {hint}
        </Box>
      )}
      {children}
    </Panel>
  );
}

/** A list beside what is open in it; on a narrow screen one under the other. */
export const Split = chakra("div", {
  base: {
    display: "grid",
    gap: "4",
    alignItems: "start",
    gridTemplateColumns: "minmax(0, 1fr)",
    pb: "7",
    [wide]: { gridTemplateColumns: "minmax({sizes.60}, {sizes.75}) minmax(0, 1fr)" },
  },
});

export const Columns = ({ children, least = 190 }: { children: ReactNode; least?: number }) => (
  <Box
    display="grid"
    rowGap="3"
    columnGap="4"
    alignItems="start"
    css={{ gridTemplateColumns: `repeat(auto-fill, minmax(min(100%, ${least}px), 1fr))` }}
  >
    {children}
  </Box>
);

/** An empty screen teaches the next step. */
export const Empty = ({ children }: { children: ReactNode }) => (
  <Panel textAlign="center" py="10" color="quiet">
    {children}
  </Panel>
);
