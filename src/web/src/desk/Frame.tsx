import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import type { Session } from "../api/staff";
import { Box } from "../shared/layout";
import { frame } from "../theme/recipes/frame";
import { PersonMenu } from "./PersonMenu";

const Anchor = chakra(Link);

/** The places a session may go to. What a role may not use, and what is not built, is absent. */
function placesOf(session: Session): [path: string, name: string][] {
  const mayEdit = session.rights.includes("edit-setup");
  const all: [path: string, name: string, shown: boolean][] = [
    ["/", t`Book`, session.rights.includes("see-book")],
    ["/my-day", t`My day`, session.practitionerId != null],
    ["/my-shifts", t`My shifts`, session.practitionerId != null && session.rights.includes("edit-shifts")],
    ["/clients", t`Clients`, session.rights.includes("keep-book")],
    ["/messages", t`Messages`, session.rights.includes("keep-book")],
    ["/team", t`Team`, mayEdit],
    ["/rooms", t`Rooms`, mayEdit],
    ["/services", t`Services`, mayEdit],
    ["/why-not", t`Why not?`, session.rights.includes("keep-book")],
    ["/setup", t`Setup`, mayEdit],
  ];
  return all.filter(([, , shown]) => shown).map(([path, name]) => [path, name]);
}

/** The rail on the left and the page beside it. */
export function Frame({ session, children }: { session: Session; children: ReactNode }) {
  const { pathname } = useLocation();
  const styles = useSlotRecipe({ recipe: frame })();
  const isHere = (path: string) =>
    path === "/"
      ? pathname === "/" || /^\/(day|week|month|agenda|sheets)\//.test(pathname)
      : pathname === path || pathname.startsWith(`${path}/`);
  return (
    <Box css={styles["root"]}>
      <Box as="nav" aria-label={t`Kingcup`} css={styles["rail"]}>
        <Box css={styles["brand"]}>
          <Trans>Kingcup</Trans>
        </Box>
        <Box css={styles["places"]}>
          {placesOf(session).map(([path, name]) => (
            <Anchor key={path} to={path} css={styles["place"]} aria-current={isHere(path) ? "page" : undefined}>
              {name}
            </Anchor>
          ))}
        </Box>
        <PersonMenu session={session} />
      </Box>
      <Box css={styles["page"]}>{children}</Box>
    </Box>
  );
}

/** One sentence where a page would be. */
export const Message = ({ children }: { children: ReactNode }) => (
  <Box as="main" display="grid" placeItems="center" h="100%" p="6" fontSize="text" textAlign="center">
    {children}
  </Box>
);
