import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { Dialog } from "../shared/Dialog";
import { CheckField } from "../shared/inputs";
import { Press } from "../shared/Press";
import { singleKeys, useSingleKeys } from "../shared/singleKeys";

const Box = chakra("div");
const keys = [
  ["n", t`New visit`],
  ["← →", t`Day before, day after; with Shift inside the lanes too`],
  ["t", t`Today`],
  ["/", t`Find a client, a visit, a day, a service`],
  ["m", t`Pick up the open visit, to put it elsewhere`],
  ["x, v", t`Cut the open visit; put it down on another day, at the same time or in the free time you are on`],
  ["c", t`The same visit again`],
  ["f", t`First that fits, then the next`],
  ["l, s", t`Make the visit you are on five minutes longer, or shorter`],
  ["u", t`Undo what you did last (Ctrl Z too)`],
  ["+ −", t`Fewer hours in view, more hours`],
  [t`Tab, arrows, Enter`, t`Go into the lanes, from visit to visit, open one`],
  [t`Esc`, t`Close the sheet`],
  ["?", t`This list`],
];

/** The keys of the book. */
export function Keys({ onClose }: { onClose: () => void }) {
  const areOn = useSingleKeys();
  return (
    <Dialog name={t`Keys`} title={<Trans>Keys</Trans>} onClose={onClose}>
      <Box as="dl" display="grid" gridTemplateColumns="auto 1fr" columnGap="5" rowGap="1.5" mb="4">
        {keys.map(([key, what]) => [
          <Box as="dt" key={key} fontWeight="700">
            {key}
          </Box>,
          <Box as="dd" key={what}>
            {what}
          </Box>,
        ])}
      </Box>
      <Box mb="4">
        <CheckField label={t`Single letters and signs are keys`} checked={areOn} onChange={singleKeys.set} />
        {!areOn && (
          <Box role="status" fontSize="small" color="quiet">
            <Trans>They do nothing now. Arrows, Enter, Esc and Ctrl Z still do.</Trans>
          </Box>
        )}
      </Box>
      <Press onClick={onClose}>
        <Trans>Close</Trans>
      </Press>
    </Dialog>
  );
}
