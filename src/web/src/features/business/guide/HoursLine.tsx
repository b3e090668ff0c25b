import { Box } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { Part } from "../../../shared/sentence/Sentence";
import { OpeningHours } from "../OpeningHours";
import { hoursWords } from "./beginning";

import type { GuideProps } from "./guideProps";
/** When clients may be there. */
export function HoursLine({ draft, errors, onChange }: GuideProps) {
  return (
    <>
      We are open{" "}
      <Part label="Opening hours" words={hoursWords(draft.opening ?? [])}>
        {(close) => (
          <Box w="min(760px, 90vw)">
            <OpeningHours hours={draft.opening ?? []} errors={errors} onChange={(opening) => onChange({ opening })} />
            <Press look="primary" size="small" mt="8px" onClick={close}>
              Done
            </Press>
          </Box>
        )}
      </Part>
      .
    </>
  );
}
