import { chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";

export const Box = chakra("div");
export const Span = chakra("span");
export const Row = chakra("div", { base: { display: "flex", alignItems: "center", gap: "10px", flexWrap: "wrap" } });
export const Stack = chakra("div", {
  base: { display: "grid", gridTemplateColumns: "minmax(0, 1fr)", gap: "14px", alignContent: "start" },
});
export const Panel = chakra("section", {
  base: { bg: "sheet", borderWidth: "1px", borderColor: "line", borderRadius: "card", p: "16px 18px" },
});
export const Table = chakra("table", {
  base: {
    borderCollapse: "collapse",
    w: "100%",
    "& th, & td": {
      textAlign: "left",
      p: "6px 10px",
      borderBottomWidth: "1px",
      borderColor: "line",
      verticalAlign: "top",
    },
    "& th": { fontWeight: "600", fontSize: "14px" },
  },
});
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
  return (
    // What has the focus is never under the bar with the buttons. What only screen readers see scrolls with the rest.
    <Box as="main" position="relative" h="100%" overflowY="auto" px="24px" py="18px" scrollPaddingBottom="200px">
      <Row justifyContent="space-between" mb="4px" minH="40px">
        <Box as="h1" fontSize="24px">
          {title}
        </Box>
        <Row>{actions}</Row>
      </Row>
      {lead && (
        <Box color="quiet" mb="14px" maxW="720px">
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
      gap="4px"
      borderBottomWidth="1px"
      borderColor="line"
      mb="16px"
    >
      {items.map(([path, name]) => (
        <Anchor
          key={path}
          to={path}
          aria-current={path === here ? "page" : undefined}
          px="12px"
          py="8px"
          mb="-1px"
          borderBottomWidth="3px"
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
      <Row justifyContent="space-between" mb={hint ? "2px" : "10px"}>
        <Box as="h2" fontSize="17px">
          {title}
        </Box>
        {actions}
      </Row>
      {hint && (
        <Box color="quiet" fontSize="14px" mb="10px">
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
    gap: "16px",
    alignItems: "start",
    gridTemplateColumns: "minmax(0, 1fr)",
    pb: "30px",
    "@media (min-width: 900px)": { gridTemplateColumns: "minmax(240px, 310px) minmax(0, 1fr)" },
  },
});

export const Columns = ({ children, least = 190 }: { children: ReactNode; least?: number }) => (
  <Box
    display="grid"
    gap="12px 16px"
    alignItems="start"
    css={{ gridTemplateColumns: `repeat(auto-fill, minmax(${least}px, 1fr))` }}
  >
    {children}
  </Box>
);

/** An empty screen teaches the next step. */
export const Empty = ({ children }: { children: ReactNode }) => (
  <Panel textAlign="center" py="40px" color="quiet">
    {children}
  </Panel>
);
