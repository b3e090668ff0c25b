import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { tintChoice, type TintBy } from "../features/booking/tints";
import { Dialog } from "../shared/Dialog";
import { SelectField } from "../shared/Field";
import { CheckField } from "../shared/fields/CheckField";
import { Press } from "../shared/Press";
import { singleKeys } from "../shared/singleKeys";

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
  const areOn = singleKeys.useValue() === "on";
  const tint = tintChoice.useValue();
  return (
    <Dialog name={t`Keys and colours`} title={<Trans>Keys and colours</Trans>} onClose={onClose}>
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
        <CheckField
          label={t`Single letters and signs are keys`}
          checked={areOn}
          onChange={(on) => singleKeys.set(on ? "on" : "off")}
        />
        {!areOn && (
          <Box role="status" fontSize="small" color="quiet">
            <Trans>They do nothing now. Arrows, Enter, Esc and Ctrl Z still do.</Trans>
          </Box>
        )}
      </Box>
      <Box mb="4" maxW="70">
        <SelectField
          label={t`Colours of the book`}
          value={tint}
          onChange={(event) => tintChoice.set(event.target.value as TintBy)}
        >
          <option value="category">{t`by category of the service`}</option>
          <option value="practitioner">{t`by practitioner`}</option>
          <option value="state">{t`by where the visit stands`}</option>
        </SelectField>
      </Box>
      <Press onClick={onClose}>
        <Trans>Close</Trans>
      </Press>
    </Dialog>
  );
}
