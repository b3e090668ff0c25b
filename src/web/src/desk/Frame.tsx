import { Plain } from "../shared/Plain";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { staff, type Session } from "../api/staff";
import { answerOf } from "../shared/problem";
import { staffHere } from "../shared/staffHere";
import { GuideBar } from "../features/business/GuideBar";

const Box = chakra("div");
const Anchor = chakra(Link);
const Out = chakra("a");
/** A telephone: the rail lies on top. */
const narrow = "@media (max-width: 600px)";
const railItem = {
  display: "block",
  py: "9px",
  px: "11px",
  whiteSpace: "nowrap",
  borderLeftWidth: "3px",
  borderColor: "transparent",
  fontWeight: "600",
  color: "onRail",
} as const;

/** The rail on the left and the page beside it. What a role may not use, and what is not built, is absent. */
export function Frame({ session, children }: { session: Session; children: ReactNode }) {
  const queries = useQueryClient();
  const { pathname } = useLocation();
  const mayEdit = session.rights.includes("edit-setup");
  const places: [path: string, name: string, shown: boolean][] = [
    ["/", "Book", session.rights.includes("see-book")],
    ["/my-shifts", "My shifts", session.practitionerId != null && session.rights.includes("edit-shifts")],
    ["/team", "Team", mayEdit],
    ["/rooms", "Rooms", mayEdit],
    ["/services", "Services", mayEdit],
    ["/why-not", "Why not?", session.rights.includes("keep-book")],
    ["/setup", "Setup", mayEdit],
  ];
  const isHere = (path: string) =>
    path === "/"
      ? pathname === "/" || pathname.startsWith("/day")
      : pathname === path || pathname.startsWith(`${path}/`);
  const signOut = useMutation({
    mutationFn: () => answerOf(staff.DELETE("/api/v1/session")),
    onSettled: () => {
      queries.clear();
      staffHere.forget();
      location.assign("/");
    },
  });
  return (
    <Box display="flex" h="100%" css={{ [narrow]: { flexDirection: "column" } }}>
      <Box
        as="nav"
        aria-label="Kingcup"
        w="104px"
        flexShrink={0}
        bg="rail"
        color="onRail"
        display="flex"
        flexDirection="column"
        css={{ [narrow]: { flexDirection: "row", flexWrap: "wrap", alignItems: "baseline", width: "100%" } }}
      >
        <Box fontFamily="heading" fontWeight="700" fontSize="18px" px="11px" whiteSpace="nowrap" pt="14px" pb="12px">
          Kingcup
        </Box>
        {places
          .filter(([, , shown]) => shown)
          .map(([path, name]) => (
            <Anchor
              key={path}
              to={path}
              css={isHere(path) ? { ...railItem, borderColor: "kingcup", bg: "rgba(255,255,255,.09)" } : railItem}
              aria-current={isHere(path) ? "page" : undefined}
            >
              {name}
            </Anchor>
          ))}
        <Out
          href="/book"
          target="_blank"
          rel="noreferrer"
          css={{ ...railItem, fontWeight: "400", whiteSpace: "normal" }}
        >
          Booking page
        </Out>
        <Box
          mt="auto"
          px="14px"
          pb="14px"
          fontSize="14px"
          css={{
            [narrow]: { display: "flex", gap: "10px", alignItems: "baseline", marginTop: 0, paddingBottom: "6px" },
          }}
        >
          <Box fontWeight="600">{session.name}</Box>
          <Box mb="6px">{session.role}</Box>
          <Anchor
            to="/account"
            display="block"
            mb="6px"
            minH="24px"
            textDecoration="underline"
            aria-current={isHere("/account") ? "page" : undefined}
          >
            Your account
          </Anchor>
          <Plain onClick={() => signOut.mutate()} textDecoration="underline" cursor="pointer" minH="24px">
            Sign out
          </Plain>
        </Box>
      </Box>
      <Box flex="1" minW="0" display="flex" flexDirection="column" position="relative">
        {mayEdit && <GuideBar />}
        <Box flex="1" minH="0" display="flex" flexDirection="column">
          {children}
        </Box>
      </Box>
    </Box>
  );
}

/** One sentence where a page would be. */
export const Message = ({ children }: { children: ReactNode }) => (
  <Box as="main" display="grid" placeItems="center" h="100%" p="24px" fontSize="17px" textAlign="center">
    {children}
  </Box>
);
