import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { clock, shortDate } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import type { Problem } from "../../../shared/problem";

const Box = chakra("div");
type Nearest = { start: string; local: string }[];

type Props = {
  problem: Problem;
  start: string;
  zone: string;
  onOther: (start: string) => void;
  onWhen: () => void;
};

/** Why the time that was chosen is not to be had, and what is near it. */
export function StartProblem({ problem, start, zone, onOther, onWhen }: Props) {
  const nearest = (problem.body["nearest"] ?? []) as Nearest;
  const reasons = (problem.code === "start-not-offered" ? (problem.body["reasons"] ?? []) : []) as { text: string }[];
  return (
    <Box role="alert" borderLeftWidth="mark" borderColor="clay" pl="3" display="grid" gap="2" justifyItems="start">
      <Box color="clay" fontWeight="600">
        {problem.code === "start-taken" ? t`Somebody else has just taken ${clock(start, zone)}.` : problem.message}{" "}
        {reasons.map((reason) => reason.text).join(" ")}
      </Box>
      {nearest.length > 0 && (
        <Box>
          <Trans>These times are near it and free:</Trans>
        </Box>
      )}
      <Box display="flex" flexWrap="wrap" gap="1.5">
        {nearest.map((item) => (
          <Press key={item.start} onClick={() => onOther(item.start)}>
            {shortDate(item.local.slice(0, 10))}, {item.local.slice(11, 16)}
          </Press>
        ))}
        <Press look="quiet" onClick={onWhen}>
          <Trans>All free times</Trans>
        </Press>
      </Box>
    </Box>
  );
}
