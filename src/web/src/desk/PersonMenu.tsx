import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { staff, type Session } from "../api/staff";
import { Floating } from "../shared/Floating";
import { Box } from "../shared/layout";
import { Plain } from "../shared/Plain";
import { answerOf } from "../shared/problem";
import { staffHere } from "../shared/staffHere";
import { visitDrafts } from "../features/booking/visitDrafts";
import { frame } from "../theme/recipes/frame";
import { Keys } from "./Keys";
import { roleNames } from "../shared/roles";

const Anchor = chakra(Link);
const Out = chakra("a");

/** Who is signed in, at the foot of the rail: their account, the booking page as clients see it, and the way out. */
export function PersonMenu({ session }: { session: Session }) {
  const styles = useSlotRecipe({ recipe: frame })();
  const queries = useQueryClient();
  const [showKeys, setShowKeys] = useState(false);
  const signOut = useMutation({
    mutationFn: () => answerOf(staff.DELETE("/api/v1/session")),
    onSettled: () => {
      queries.clear();
      staffHere.forget();
      visitDrafts.forget();
      location.assign("/");
    },
  });
  return (
    <>
      <Floating
        label={t`You`}
        trigger={
          <Plain css={styles["person"]}>
            {session.name} · {roleNames[session.role]}
          </Plain>
        }
      >
        {(close) => (
          <Box css={styles["menu"]}>
            <Anchor to="/account" css={styles["menuItem"]} onClick={close}>
              <Trans>Your account</Trans>
            </Anchor>
            <Plain
              css={styles["menuItem"]}
              onClick={() => {
                close();
                setShowKeys(true);
              }}
            >
              <Trans>Keys and colours</Trans>
            </Plain>
            <Out href="/book" target="_blank" rel="noreferrer" css={styles["menuItem"]} onClick={close}>
              <Trans>Booking page</Trans>
            </Out>
            <Plain css={styles["menuItem"]} onClick={() => signOut.mutate()}>
              <Trans>Sign out</Trans>
            </Plain>
          </Box>
        )}
      </Floating>
      {showKeys && <Keys onClose={() => setShowKeys(false)} />}
    </>
  );
}
