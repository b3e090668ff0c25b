import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../../api/queries";
import type { DeskSetup, Visit } from "../../../api/staff";
import { shortDateWithYear } from "../../../shared/format";
import { Box, Stack } from "../../../shared/layout";
import { Plain } from "../../../shared/Plain";
import { linesAgain, type LineDraft } from "./lineDrafts";

type Props = { clientId: string; setup: DeskSetup; locationId: string; onTake: (lines: LineDraft[]) => void };

/** What the client usually has, and their last visits, each to be had again with all its lines. */
export function SameAgain({ clientId, setup, locationId, onTake }: Props) {
  const again = useQuery(asks.again(clientId, locationId)).data;
  if (!again || (!again.usual && again.last.length === 0)) return null;
  const take = (visit: Visit) => onTake(linesAgain(visit, setup));
  return (
    <Stack as="section" gap="1" aria-labelledby="same-again">
      <Box id="same-again" fontWeight="600" fontSize="small">
        <Trans>Same again</Trans>
      </Box>
      {again.usual && (
        <Again
          visit={again.usual}
          onTake={take}
          when={t`the usual, ${again.times} of the last ${again.looked}`}
          isUsual
        />
      )}
      {again.last.map((visit) => (
        <Again key={visit.id} visit={visit} when={shortDateWithYear(visit.date)} onTake={take} />
      ))}
    </Stack>
  );
}

type AgainProps = { visit: Visit; when: string; isUsual?: boolean; onTake: (visit: Visit) => void };

const Again = ({ visit, when, isUsual, onTake }: AgainProps) => (
  <Plain
    textAlign="left"
    cursor="pointer"
    px="2.5"
    py="1"
    minH="8"
    borderWidth="line"
    borderColor={isUsual ? "reed" : "line"}
    borderRadius="card"
    onClick={() => onTake(visit)}
  >
    {wordsOf(visit)}
    <Box as="span" display="block" fontSize="small" color="quiet">
      {[visit.lines[0]?.practitioners[0]?.name ?? t`nobody`, when].join(", ")}
    </Box>
  </Plain>
);

/** What a visit was, line by line. */
const wordsOf = (visit: Visit) =>
  visit.lines.map((line) => [line.service, ...line.addOns.map((addOn) => addOn.name)].join(" · ")).join(" + ");
