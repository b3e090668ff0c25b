import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useEffect, useRef } from "react";
import { Press } from "../shared/Press";

const Dialog = chakra("dialog");
const Box = chakra("div");
const keys = [
  ["n", t`New visit`],
  ["← →", t`Day before, day after`],
  ["t", t`Today`],
  ["/", t`Find a client`],
  [t`Tab, Enter`, t`Go from visit to visit, open one`],
  [t`Esc`, t`Close the sheet`],
  ["?", t`This list`],
];

/** The keys of the book. */
export function Keys({ onClose }: { onClose: () => void }) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => ref.current?.showModal(), []);
  return (
    <Dialog
      ref={ref}
      onClose={onClose}
      aria-label={t`Keys`}
      m="auto"
      p="5"
      bg="sheet"
      color="ink"
      borderWidth="line"
      borderColor="line"
      borderRadius="card"
    >
      <Box as="h2" fontSize="title" mb="3">
        <Trans>Keys</Trans>
      </Box>
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
      <Press onClick={() => ref.current?.close()}>
        <Trans>Close</Trans>
      </Press>
    </Dialog>
  );
}
