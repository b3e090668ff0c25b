import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import type { Own, OwnVisit } from "../../../api/public";
import { clockRange, dateIn, longDate, money } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { visit as recipe } from "../../../theme/recipes/visit";
import { AskedPart } from "./AskedPart";
import { ProposedTimes } from "./ProposedTimes";
import { goTo } from "./steps";

const Box = chakra("div");
const Onward = chakra("a", { base: { textDecoration: "underline" } });

const states = (): Record<string, string> => ({
  requested: t`waits to be granted`,
  answered: t`not possible then`,
  cancelled: t`cancelled`,
  missed: t`you did not come`,
});

/** A booking: when, what, where, what is paid, and what can be done with it. */
export function OwnCard({
  visit,
  named,
  onChosen,
}: {
  visit: OwnVisit;
  named: boolean;
  onChosen: (after: Own) => void;
}) {
  const styles = useSlotRecipe({ recipe })();
  const state = states()[visit.state];
  const when = `${longDate(dateIn(visit.start, visit.zone))}, ${clockRange(visit.start, visit.end, visit.zone)}`;
  return (
    <Box as="section" aria-label={when} css={styles["box"]}>
      <Box as="h2" fontSize="title" fontWeight="700">
        {when}
      </Box>
      {visit.lines.map((line) => (
        <Box key={line}>{line}</Box>
      ))}
      <Box color="quiet">{[named ? visit.name : "", visit.location, visit.address].filter(Boolean).join(", ")}</Box>
      {visit.wrote && (
        <Box color="quiet">
          <Trans>You wrote: {visit.wrote}</Trans>
        </Box>
      )}
      <Box>
        {Number(visit.paid.amount) > 0 ? (
          <Trans>
            {money(visit.price)}: {money(visit.paid)} is paid, {money(visit.rest)} is left to pay
          </Trans>
        ) : (
          money(visit.price)
        )}
        {" · "}
        {visit.reference}
        {state && <b> · {state}</b>}
      </Box>
      {visit.asked && <AskedPart visit={visit} asked={visit.asked} when={when} />}
      {visit.times.length > 0 && <ProposedTimes visit={visit} when={when} onChosen={onChosen} />}
      {visit.state === "answered" && visit.times.length === 0 && (
        <Box>
          <Trans>The times we proposed are not kept any more. Look for another, or call us.</Trans>
        </Box>
      )}
      <Box display="flex" flexWrap="wrap" gap="2" alignItems="center">
        {visit.moving && (
          <Press aria-label={t`Move: ${when}`} onClick={() => goTo({ does: "moves", id: visit.id })}>
            <Trans>Move</Trans>
          </Press>
        )}
        {visit.cancelling && (
          <Press
            look="quiet"
            aria-label={visit.state === "answered" ? t`None of these: ${when}` : t`Cancel: ${when}`}
            onClick={() => goTo({ does: "cancels", id: visit.id })}
          >
            {visit.state === "answered" ? t`None of these` : t`Cancel`}
          </Press>
        )}
        {visit.againServiceIds.length > 0 && !visit.moving && !visit.cancelling && (
          <Onward href={`/book?${visit.againServiceIds.map((id) => `what=${id}`).join("&")}&step=when`}>
            <Trans>Book the same again</Trans>
          </Onward>
        )}
      </Box>
    </Box>
  );
}
