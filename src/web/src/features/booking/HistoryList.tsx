import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type DeskSetup } from "../../api/staff";
import { moment } from "../../shared/format";
import { Press } from "../../shared/Press";
import { done, saidOf, standingOf } from "./historyWords";

const Box = chakra("div");
/** Everything that happened to a visit, oldest first. */
export function HistoryList({
  id,
  setup,
  zone,
  onStop,
}: {
  id: string;
  setup: DeskSetup;
  zone: string;
  onStop: () => void;
}) {
  const history = useQuery(asks.visitHistory(id));
  const said = (text: string | null) => saidOf(text, setup, zone);
  return (
    <Box>
      <Box as="h3" fontSize="text" mb="2">
        <Trans>History</Trans>
      </Box>
      {history.error && <Box role="alert">{history.error.message}</Box>}
      <Box as="ol" display="grid" gap="2.5" mb="3.5">
        {history.data?.map((entry) => (
          <Box as="li" key={entry.at + entry.action} borderTopWidth="line" borderColor="line" pt="2">
            <Box fontWeight="600">
              <Trans>
                {done[entry.action] ?? entry.action} by {entry.actor}
              </Trans>
            </Box>
            <Box fontSize="small" color="quiet">
              {moment(entry.at, zone)}
            </Box>
            <Box fontSize="small">{[said(entry.before), said(entry.after)].filter(Boolean).join(" → ")}</Box>
            {standingOf(entry.after).over?.map((text) => (
              <Box key={text} fontSize="small" color="clay">
                <Trans>knowingly over: {text}</Trans>
              </Box>
            ))}
          </Box>
        ))}
      </Box>
      <Press onClick={onStop}>
        <Trans>Back to the visit</Trans>
      </Press>
    </Box>
  );
}
