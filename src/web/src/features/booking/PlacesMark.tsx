import { plural, t } from "@lingui/core/macro";
import { memo, useMemo } from "react";
import { Floating } from "../../shared/Floating";
import { clockRange } from "../../shared/format";
import { Box, Stack } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import type { Block } from "./blocks";
import { runsOf, type Run } from "./places";
import type { Scale } from "./scale";

type Props = {
  blocks: Block[];
  units: number;
  lane: string;
  zone: string;
  scale: Scale;
  chosen: string | null;
  onOpen: (visitId: string) => void;
};

/** A lane for several: a filled curve of the places taken, with how many of how many; pressing it tells who is there. */
export const PlacesMark = memo(function PlacesMark({ blocks, units, ...rest }: Props) {
  const runs = useMemo(() => runsOf(blocks, units), [blocks, units]);
  return (
    <>
      {runs.map((run) => (
        <RunMark key={run.from} run={run} units={units} {...rest} />
      ))}
    </>
  );
});

type RunProps = Omit<Props, "blocks"> & { run: Run };

function RunMark({ run, units, lane, zone, scale, chosen, onOpen }: RunProps) {
  const first = Date.parse(run.from);
  const length = Date.parse(run.until) - first;
  const share = (instant: string) => ((Date.parse(instant) - first) / length) * 100;
  const most = Math.max(...run.steps.map((step) => step.count));
  const path = run.steps
    .map((step) => `H${share(step.from)}V${100 - (step.count / units) * 100}H${share(step.until)}`)
    .join("");
  const words = plural(run.visits.length, { one: "# visit", other: "# visits" });
  return (
    <div role="gridcell">
      <Floating
        label={t`${lane}, ${clockRange(run.from, run.until, zone)}`}
        trigger={
          <button
            type="button"
            className="kc-places"
            tabIndex={-1}
            data-cell={first}
            data-chosen={run.visits.some((item) => item.visit.id === chosen) ? "" : undefined}
            aria-label={t`${lane}, ${clockRange(run.from, run.until, zone)}: up to ${most} of ${units} places taken, ${words}`}
            onClick={(event) => event.stopPropagation()}
            style={scale.span(run.from, run.until)}
          >
            <svg viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden>
              <path d={`M0 100${path}V100Z`} />
            </svg>
            {run.steps.map((step) => (
              <span
                key={step.from}
                style={{ left: `${share(step.from)}%`, width: `${share(step.until) - share(step.from)}%` }}
              >
                <span>{t`${step.count} of ${units}`}</span>
              </span>
            ))}
          </button>
        }
      >
        {(close) => (
          <Stack gap="1">
            <Box fontWeight="700">
              {lane}, {clockRange(run.from, run.until, zone)}
            </Box>
            {run.visits.map((item) => (
              <Plain
                key={item.key}
                textAlign="left"
                cursor="pointer"
                px="2"
                minH="7"
                borderRadius="card"
                _hover={{ bg: "paper" }}
                onClick={() => {
                  close();
                  onOpen(item.visit.id);
                }}
              >
                <b>
                  {item.visit.client.givenName} {item.visit.client.familyName}
                </b>{" "}
                {clockRange(item.coreFrom, item.coreUntil, zone)}, {item.line.service}
              </Plain>
            ))}
          </Stack>
        )}
      </Floating>
    </div>
  );
}
